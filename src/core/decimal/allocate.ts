import { compare, type Decimal, fromDigits, negate, powerOfTen, scaleOf, toDigits, ZERO } from './decimal'
import { addFractions, floorDivide, type Fraction } from './fraction'
import { roundToDigits } from './rounding'

/**
 * Splits an amount over weights so that the shares add up to it exactly.
 *
 * Units   `digits` is how many digits a share may have; the amount has no more.
 * Holds   every share is floored, and the units left over go to the largest remainders, ties to the earlier one; a
 *         negative amount mirrors the positive one; a weight of zero gets nothing.
 * Errors  throws `RangeError` for a negative weight, or weights that are all zero with something to split.
 * Source  the largest-remainder method (Hare quota), as M. Fowler's Money pattern uses it (from memory).
 */
export function allocate(amount: Decimal, weights: readonly Decimal[], digits: number): readonly Decimal[] {
  if (compare(amount, ZERO) < 0) return allocate(negate(amount), weights, digits).map(negate)
  if (amount === ZERO) return weights.map(() => ZERO)
  const scale = Math.max(...weights.map(scaleOf))
  const parts = weights.map((weight) => inUnits(weight, scale))
  const total = parts.reduce((sum, part) => sum + part, 0n)
  if (parts.some((part) => part < 0n) || total === 0n)
    throw new RangeError('weights must add up to something')
  const units = inUnits(amount, digits)
  const floors = parts.map((part) => (units * part) / total)
  const remainders = parts.map((part) => (units * part) % total)
  const left = Number(units - floors.reduce((sum, floor) => sum + floor, 0n))
  const first = [...parts.keys()].sort((one, other) => {
    const [mine, theirs] = [remainders[one] as bigint, remainders[other] as bigint]
    return mine === theirs ? one - other : mine > theirs ? -1 : 1
  })
  const raised = new Set(first.slice(0, left))
  return floors.map((floor, at) =>
    fromDigits({ coefficient: raised.has(at) ? floor + 1n : floor, scale: digits }),
  )
}

function inUnits(value: Decimal, digits: number): bigint {
  const { coefficient, scale } = toDigits(value)
  return coefficient * powerOfTen(digits - scale)
}

/**
 * Rounds exact amounts so that they add up to their exact sum rounded once.
 *
 * Units   `digits` is how many digits a share may have.
 * Holds   every share is floored, and the units left over go to the largest remainders, ties to the earlier one.
 * Source  the largest-remainder method, as in `allocate`; the sum is rounded half up.
 */
export function shareOut(exacts: readonly Fraction[], digits: number): readonly Decimal[] {
  const unit = powerOfTen(digits)
  const floors = exacts.map(({ numerator, denominator }) => floorDivide(numerator * unit, denominator))
  const remainders = exacts.map(({ numerator, denominator }, at) => ({
    numerator: numerator * unit - (floors[at] as bigint) * denominator,
    denominator,
  }))
  const left = roundToDigits(remainders.reduce(addFractions), 0, 'half-up')
  const byRemainder = [...exacts.keys()].sort((one, other) => {
    const [mine, theirs] = [remainders[one] as Fraction, remainders[other] as Fraction]
    const difference = theirs.numerator * mine.denominator - mine.numerator * theirs.denominator
    return difference === 0n ? one - other : difference < 0n ? -1 : 1
  })
  const raised = new Set(byRemainder.slice(0, Number(left)))
  return floors.map((floor, at) =>
    fromDigits({ coefficient: raised.has(at) ? floor + 1n : floor, scale: digits }),
  )
}
