import { allocate } from '../decimal/allocate'
import { add, type Decimal, HUNDRED, multiply, subtract, sum, ZERO } from '../decimal/decimal'
import { divide, toExactDecimal } from '../decimal/fraction'
import { roundToDigits } from '../decimal/rounding'
import type { TaxBasis } from '../price/based-amount'
import type { Levy } from './find-levies'

/** One levy's part of an amount. */
interface LevyAmount {
  readonly levy: Levy
  /** What it is charged on: the net, and the taxes it is upon. */
  readonly on: Decimal
  readonly amount: Decimal
}

export interface TaxSplit {
  readonly net: Decimal
  readonly taxes: readonly LevyAmount[]
  readonly gross: Decimal
}

/**
 * Splits one amount into net, each levy and gross.
 *
 * Units   amount in currency units, exact; `digits` of the currency. Taxes are rounded half up.
 * Holds   net + taxes = gross exactly. From the net each levy is rounded by itself, a compound one on the rounded
 *         taxes below it; from the gross the whole tax is the only rounded figure, and levies share it by largest
 *         remainder.
 * Source  EN 16931 BR-CO-17 for the rounding of a tax amount (from memory); gross = net × (1 + rate).
 */
export function splitTax(
  amount: Decimal,
  basis: TaxBasis,
  levies: readonly Levy[],
  digits: number,
): TaxSplit {
  if (levies.length === 0) return { net: amount, taxes: [], gross: amount }
  if (basis === 'net') {
    const taxes = taxesOn(amount, levies, digits)
    return { net: amount, taxes, gross: sum([amount, ...taxes.map((tax) => tax.amount)]) }
  }
  const shares = effectiveRates(levies)
  const whole = sum(shares)
  // One division: dividing first and multiplying after would round twice.
  const tax = roundToDigits(divide(multiply(amount, whole), add(HUNDRED, whole)), digits, 'half-up')
  const net = subtract(amount, tax)
  const amounts = whole === ZERO ? levies.map(() => ZERO) : allocateSigned(tax, shares, digits)
  const taxes: LevyAmount[] = []
  levies.forEach((levy, at) => {
    taxes.push({ levy, on: chargedOn(levy, net, taxes), amount: amounts[at] as Decimal })
  })
  return { net, taxes, gross: amount }
}

/** What a levy is charged on: the net, and those of the taxes below it that it is upon. */
export function chargedOn(
  { tax }: Levy,
  net: Decimal,
  below: readonly { readonly levy: Levy; readonly amount: Decimal }[],
): Decimal {
  if (tax.upon.length === 0) return net
  return sum([net, ...below.filter(({ levy }) => tax.upon.includes(levy.tax.id)).map(({ amount }) => amount)])
}

/** Rates below zero are rare and cannot share by remainder: the last levy takes what is left. */
function allocateSigned(tax: Decimal, shares: readonly Decimal[], digits: number): readonly Decimal[] {
  if (shares.every((share) => !share.startsWith('-'))) return allocate(tax, shares, digits)
  const whole = sum(shares)
  const amounts = shares.map((share) => roundToDigits(divide(multiply(tax, share), whole), digits, 'half-up'))
  const others = amounts.slice(0, -1)
  return [...others, subtract(tax, sum(others))]
}

function taxesOn(net: Decimal, levies: readonly Levy[], digits: number): readonly LevyAmount[] {
  const taxes: LevyAmount[] = []
  for (const levy of levies) {
    const on = chargedOn(levy, net, taxes)
    const amount = roundToDigits(divide(multiply(on, levy.percent), HUNDRED), digits, 'half-up')
    taxes.push({ levy, on, amount })
  }
  return taxes
}

/** What levies come to together, in percent of the net. */
export function wholePercent(levies: readonly Levy[]): Decimal {
  return sum(effectiveRates(levies))
}

/** What each levy comes to in percent of the net, including its part on the levies it is calculated on top of. */
export function effectiveRates(levies: readonly Levy[]): readonly Decimal[] {
  const rates = new Map<string, Decimal>()
  return levies.map(({ tax, percent }) => {
    const below = tax.upon.reduce<Decimal>((sum, id) => add(sum, rates.get(id) ?? ZERO), HUNDRED)
    const rate = toExactDecimal(divide(multiply(below, percent), HUNDRED)) as Decimal
    rates.set(tax.id, rate)
    return rate
  })
}
