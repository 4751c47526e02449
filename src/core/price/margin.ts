import { compare, type Decimal, HUNDRED, isPositive, multiply, subtract } from '../decimal/decimal'
import { divide, sumFractions } from '../decimal/fraction'
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

/** A price, and the one it is measured against, which is above zero. */
export type PriceAgainst = readonly [price: Decimal, from: Decimal]

/**
 * The median of how far prices stand from others, in percent with one digit (half up), of an even number the mean of the two
 * in the middle. They come in the order of how far they stand.
 *
 * Errors  `null` for none.
 */
export function medianDifferencePercent(sorted: readonly PriceAgainst[]): Decimal | null {
  if (sorted.length === 0) return null
  const at = Math.floor(sorted.length / 2)
  const middle = sorted.slice(sorted.length % 2 === 1 ? at : at - 1, at + 1)
  const sum = sumFractions(
    middle.map(([price, from]) => divide(multiply(subtract(price, from), HUNDRED), from)),
  )
  const denominator = sum.denominator * BigInt(middle.length)
  return roundToDigits({ numerator: sum.numerator, denominator }, 1, 'half-up')
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
