import { compare, type Decimal, HUNDRED, isPositive, multiply, subtract } from '../decimal/decimal'
import { divide } from '../decimal/fraction'
import { roundToDigits } from '../decimal/rounding'

/**
 * The share of a price that is left after its cost, in percent with one digit (half up).
 *
 * Errors  `null` when the price is not above zero.
 * Source  margin = (price − cost) ÷ price (commercial arithmetic; checks.md §4.2).
 */
export function marginPercent(price: Decimal, cost: Decimal): Decimal | null {
  if (!isPositive(price)) return null
  return roundToDigits(divide(multiply(subtract(price, cost), HUNDRED), price), 1, 'half-up')
}

/** Whether a price does not even bring its cost back; a price equal to the cost does. */
export function isBelowCost(price: Decimal, cost: Decimal): boolean {
  return compare(price, cost) < 0
}

/**
 * How far a price stands from another, in percent of that other with one digit (half up).
 *
 * Errors  `null` when the other is not above zero.
 */
export function differencePercent(price: Decimal, from: Decimal): Decimal | null {
  if (!isPositive(from)) return null
  return roundToDigits(divide(multiply(subtract(price, from), HUNDRED), from), 1, 'half-up')
}

/**
 * By how much sales may change, in percent with one digit (half up), for the profit to stay what it is: below zero they may
 * fall, above it they have to rise. Margins are in money, of a unit or of the same basket.
 *
 * Errors  `null` where nothing is left of a sale: then no volume makes up for it.
 * Source  T. Nagle and R. Holden, “The Strategy and Tactics of Pricing”, breakeven sales change: −ΔCM ÷ new CM (checks.md
 *         §4.3; from memory).
 */
export function breakEvenPercent(before: Decimal, after: Decimal): Decimal | null {
  if (!isPositive(after)) return null
  return roundToDigits(divide(multiply(subtract(before, after), HUNDRED), after), 1, 'half-up')
}
