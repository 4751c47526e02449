import { shareOut } from '../decimal/allocate'
import { type Decimal, ZERO } from '../decimal/decimal'
import type { Fraction } from '../decimal/fraction'
import { roundToDigits } from '../decimal/rounding'

/** What one line of a cart comes to before it is rounded to what can be paid. */
export interface ExactTotal {
  readonly exact: Fraction
  /** Lines with one key were counted together into graduated brackets; `null` for a line by itself. */
  readonly brackets: string | null
}

/**
 * The totals of lines, rounded to what can be paid.
 *
 * Units   `digits` of the currency.
 * Holds   lines counted together into graduated brackets add up to their exact sum rounded once, so that it does not
 *         matter over how many lines a quantity is spread: each is floored, and the units left over go to the largest
 *         remainders, ties to the earlier line. A line by itself is rounded half up.
 */
export function roundTotals(
  lines: readonly (ExactTotal | null)[],
  digits: number,
): readonly (Decimal | null)[] {
  const together = new Map<string, number[]>()
  const totals = lines.map((line, at): Decimal | null => {
    if (!line) return null
    if (line.brackets === null) return roundToDigits(line.exact, digits, 'half-up')
    const known = together.get(line.brackets)
    if (known) known.push(at)
    else together.set(line.brackets, [at])
    return ZERO
  })
  for (const members of together.values()) {
    const exacts = members.map((at) => (lines[at] as ExactTotal).exact)
    shareOut(exacts, digits).forEach((amount, place) => {
      totals[members[place] as number] = amount
    })
  }
  return totals
}
