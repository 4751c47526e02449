import { shareOut } from '../decimal/allocate'
import { add, type Decimal, HUNDRED, multiply, subtract, sum } from '../decimal/decimal'
import { divide, type Fraction } from '../decimal/fraction'
import type { TaxableAmount } from '../engine/rules/find-tax'
import type { Levy } from '../tax/find-levies'
import { chargedOn, effectiveRates, splitTax } from '../tax/split-tax'
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
 *         Per line each is rounded by itself; per document each levy at each percentage is rounded once on its whole, and
 *         the lines share that by largest remainder.
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

/**
 * Each levy at one percentage is summed exactly over all lines it falls on, whatever classes and rates it came from and
 * whatever else falls on them, and rounded once; the lines share it.
 */
function taxTogether(lines: readonly TaxableAmount[], digits: number): readonly TaxedLine[] {
  const parts = lines.map(() => new Map<string, LevyPart>())
  for (const key of levyKeys(lines)) {
    const members = lines.flatMap(({ levies }, at) => {
      const levy = levies.find((each) => levyKey(each) === key)
      return levy ? [{ at, levy }] : []
    })
    const exacts = members.map(({ at, levy }) =>
      exactTax(lines[at] as TaxableAmount, levy, [...(parts[at] as Map<string, LevyPart>).values()]),
    )
    shareOut(exacts, digits).forEach((amount, place) => {
      const { at, levy } = members[place] as (typeof members)[number]
      parts[at]?.set(key, { levy, amount })
    })
  }
  return lines.map(({ amount, basis, levies }, at) => {
    const taxes = levies.map((levy) => parts[at]?.get(levyKey(levy)) as LevyPart)
    const tax = sum(taxes.map((each) => each.amount))
    return {
      amount:
        basis === 'net'
          ? { net: amount, tax, gross: add(amount, tax) }
          : { net: subtract(amount, tax), tax, gross: amount },
      taxes,
    }
  })
}

interface LevyPart {
  readonly levy: Levy
  readonly amount: Decimal
}

function levyKey({ tax, percent }: Levy): string {
  return `${tax.id}/${percent}`
}

/** The levies of all lines, each after those it is calculated on top of. */
function levyKeys(lines: readonly TaxableAmount[]): readonly string[] {
  const levies = new Map<string, Levy>()
  for (const line of lines) for (const levy of line.levies) levies.set(levyKey(levy), levy)
  const ordered: Levy[] = []
  const put = (levy: Levy) => {
    if (ordered.includes(levy)) return
    for (const other of levies.values()) if (levy.tax.upon.includes(other.tax.id)) put(other)
    ordered.push(levy)
  }
  for (const levy of levies.values()) put(levy)
  return ordered.map(levyKey)
}

/** The tax of one levy on a line before it is rounded; of a net amount with the taxes below it, which are known. */
function exactTax(
  { amount, basis, levies }: TaxableAmount,
  levy: Levy,
  below: readonly LevyPart[],
): Fraction {
  if (basis === 'net') return divide(multiply(chargedOn(levy, amount, below), levy.percent), HUNDRED)
  const rates = effectiveRates(levies)
  const own = rates[levies.indexOf(levy)] as Decimal
  return divide(multiply(amount, own), add(HUNDRED, sum(rates)))
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
