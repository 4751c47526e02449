import { type Decimal, HUNDRED, isPositive, multiply, subtract } from './decimal'
import { divide } from './fraction'
import { roundToDigits } from './rounding'

/**
 * How far an amount stands from another, in percent of that other with one digit (half up).
 *
 * Errors  `null` when the other is not above zero.
 */
export function differencePercent(amount: Decimal, from: Decimal): Decimal | null {
  if (!isPositive(from)) return null
  return roundToDigits(divide(multiply(subtract(amount, from), HUNDRED), from), 1, 'half-up')
}
