import type { Decimal } from '../../decimal/decimal'
import { type Fraction, toExactDecimal } from '../../decimal/fraction'
import { roundToDigits } from '../../decimal/rounding'

const SHOWN_DIGITS = 10

/** An exact amount as a step shows it: whole where it ends, else to ten digits. */
export function shown(exact: Fraction): Decimal {
  return toExactDecimal(exact) ?? roundToDigits(exact, SHOWN_DIGITS, 'half-even')
}
