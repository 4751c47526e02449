import { allocate } from '../decimal/allocate'
import { add, compare, type Decimal, subtract, sum, ZERO } from '../decimal/decimal'
import type { TaxableAmount } from '../engine/find-tax'
import type { Levy } from '../tax/find-levies'
import { chargedOn, splitTax } from '../tax/split-tax'
import type { TaxedAmount, TaxTotal } from './cart'

/** The taxes of one line of a document. */
interface TaxedLine {
  readonly amount: TaxedAmount
  readonly taxes: readonly { readonly levy: Levy; readonly amount: Decimal }[]
}

interface TaxedDocument {
  readonly lines: readonly TaxedLine[]
  readonly totals: readonly TaxTotal[]
}

/**
 * Taxes the lines of one document.
 *
 * Holds   net + taxes = gross on every line and in the sum, and the sum of the lines' taxes is the total of each tax.
 *         Per line each is rounded by itself; per document each rate is rounded once on its whole, and the lines share
 *         that by largest remainder.
 * Source  EN 16931 BR-CO-14, -15 and -17, BR-S-08 (from memory) for the document; per line, common practice.
 */
export function taxDocument(
  lines: readonly TaxableAmount[],
  rounding: 'line' | 'document',
  digits: number,
): TaxedDocument {
  const taxed = rounding === 'line' ? lines.map((line) => taxLine(line, digits)) : taxTogether(lines, digits)
  return { lines: taxed, totals: totalsOf(taxed) }
}

/** What the lines of a document come to before tax: only amounts that contain their tax need to be split for it. */
export function netsOf(
  lines: readonly TaxableAmount[],
  rounding: 'line' | 'document',
  digits: number,
): readonly Decimal[] {
  if (lines.every(({ basis }) => basis === 'net')) return lines.map(({ amount }) => amount)
  return taxDocument(lines, rounding, digits).lines.map(({ amount }) => amount.net)
}

function taxLine({ amount, basis, levies }: TaxableAmount, digits: number): TaxedLine {
  const { net, taxes, gross } = splitTax(amount, basis, levies, digits)
  const tax = sum(taxes.map((each) => each.amount))
  return { amount: { net, tax, gross }, taxes: taxes.map(({ levy, amount }) => ({ levy, amount })) }
}

/** Lines under the same levies, entered alike, are taxed as one amount. */
function taxTogether(lines: readonly TaxableAmount[], digits: number): readonly TaxedLine[] {
  const groups = new Map<string, number[]>()
  lines.forEach(({ basis, levies }, at) => {
    const key = `${basis}/${levies.map(({ rate }) => rate.id).join()}`
    const known = groups.get(key)
    if (known) known.push(at)
    else groups.set(key, [at])
  })
  const taxed: TaxedLine[] = new Array(lines.length)
  for (const members of groups.values()) {
    const first = lines[members[0] as number] as TaxableAmount
    const amounts = members.map((at) => (lines[at] as TaxableAmount).amount)
    const whole = splitTax(sum(amounts), first.basis, first.levies, digits)
    const shares = whole.taxes.map(({ amount }) => share(amount, amounts, digits))
    members.forEach((at, place) => {
      const taxes = whole.taxes.map(({ levy }, each) => ({
        levy,
        amount: shares[each]?.[place] as Decimal,
      }))
      const tax = sum(taxes.map((each) => each.amount))
      const amount = amounts[place] as Decimal
      taxed[at] = {
        amount:
          first.basis === 'net'
            ? { net: amount, tax, gross: add(amount, tax) }
            : { net: subtract(amount, tax), tax, gross: amount },
        taxes,
      }
    })
  }
  return taxed
}

/** Credits beside sales cannot share by remainder: then the largest line takes what is left. */
function share(amount: Decimal, weights: readonly Decimal[], digits: number): readonly Decimal[] {
  const hasCredits = weights.some((weight) => compare(weight, ZERO) < 0)
  const isEmpty = weights.every((weight) => weight === ZERO)
  if (!hasCredits && !isEmpty) return allocate(amount, weights, digits)
  const largest = weights.reduce(
    (best, weight, at) => (compare(weight, weights[best] as Decimal) > 0 ? at : best),
    0,
  )
  return weights.map((_, at) => (at === largest ? amount : ZERO))
}

/** What each tax comes to at each rate. What it is charged on is the net, with the taxes below it. */
function totalsOf(lines: readonly TaxedLine[]): readonly TaxTotal[] {
  const parts = new Map<string, { levy: Levy; on: Decimal[]; amounts: Decimal[] }>()
  for (const { amount, taxes } of lines) {
    for (const { levy, amount: tax } of taxes) {
      const key = `${levy.tax.id}/${levy.percent}`
      let known = parts.get(key)
      if (!known) parts.set(key, (known = { levy, on: [], amounts: [] }))
      known.on.push(chargedOn(levy, amount.net, taxes))
      known.amounts.push(tax)
    }
  }
  return [...parts.values()].map(({ levy, on, amounts }) => ({ levy, on: sum(on), amount: sum(amounts) }))
}
