import { type Decimal, fromDigits, powerOfTen, toDigits } from './decimal'

/** An exact rational number: what stands inside a step before it is rounded. The denominator is positive. */
export interface Fraction {
  readonly numerator: bigint
  readonly denominator: bigint
}

export function toFraction(value: Decimal): Fraction {
  const { coefficient, scale } = toDigits(value)
  return { numerator: coefficient, denominator: powerOfTen(scale) }
}

/**
 * `dividend ÷ divisor`, exactly.
 *
 * Errors  throws `RangeError` for a zero divisor.
 */
export function divide(dividend: Decimal, divisor: Decimal): Fraction {
  const top = toFraction(dividend)
  const bottom = toFraction(divisor)
  if (bottom.numerator === 0n) throw new RangeError('division by zero')
  const numerator = top.numerator * bottom.denominator
  const denominator = top.denominator * bottom.numerator
  return denominator < 0n ? { numerator: -numerator, denominator: -denominator } : { numerator, denominator }
}

export function multiplyFractions(left: Fraction, right: Fraction): Fraction {
  return {
    numerator: left.numerator * right.numerator,
    denominator: left.denominator * right.denominator,
  }
}

/** Errors  throws `RangeError` for a divisor that is not above zero. */
export function divideFractions(dividend: Fraction, divisor: Fraction): Fraction {
  if (divisor.numerator <= 0n) throw new RangeError('a divisor must be above zero')
  return multiplyFractions(dividend, { numerator: divisor.denominator, denominator: divisor.numerator })
}

export function addFractions(left: Fraction, right: Fraction): Fraction {
  if (left.denominator === right.denominator)
    return { numerator: left.numerator + right.numerator, denominator: left.denominator }
  return {
    numerator: left.numerator * right.denominator + right.numerator * left.denominator,
    denominator: left.denominator * right.denominator,
  }
}

export const ZERO_FRACTION: Fraction = { numerator: 0n, denominator: 1n }

export function subtractFractions(left: Fraction, right: Fraction): Fraction {
  return addFractions(left, { ...right, numerator: -right.numerator })
}

export function sumFractions(values: readonly Fraction[]): Fraction {
  return values.reduce(addFractions, ZERO_FRACTION)
}

/** Below, at or above zero as the left is below, equal to or above the right. */
export function compareFractions(left: Fraction, right: Fraction): -1 | 0 | 1 {
  const difference = left.numerator * right.denominator - right.numerator * left.denominator
  return difference < 0n ? -1 : difference > 0n ? 1 : 0
}

export function leastFraction(left: Fraction, right: Fraction): Fraction {
  return compareFractions(left, right) <= 0 ? left : right
}

/** So many percent of a value. */
export function percentOfFraction(value: Fraction, percent: Decimal): Fraction {
  const { numerator, denominator } = toFraction(percent)
  return multiplyFractions(value, { numerator, denominator: denominator * 100n })
}

/** The largest integer not above `numerator ÷ denominator`; the denominator is positive. */
export function floorDivide(numerator: bigint, denominator: bigint): bigint {
  const quotient = numerator / denominator
  return numerator < 0n && quotient * denominator !== numerator ? quotient - 1n : quotient
}

/**
 * The fraction as a decimal, where it is one of at most `digits` digits.
 *
 * Errors  `null` when it has no such finite form: round it instead.
 */
export function toExactDecimal({ numerator, denominator }: Fraction, digits = 20): Decimal | null {
  const scaled = numerator * powerOfTen(digits)
  return scaled % denominator === 0n ? fromDigits({ coefficient: scaled / denominator, scale: digits }) : null
}
