import { add, type Decimal, HUNDRED, subtract, toDigits } from '../../decimal/decimal'
import { type Fraction, toFraction } from '../../decimal/fraction'
import type { PriceMethod } from '../../price/lines/price-method'

/**
 * An exact step from one price to another, both in smallest units: (source × numerator + addend) ÷ denominator.
 * Numerator and denominator are positive.
 */
export interface Operation {
  readonly numerator: bigint
  readonly addend: bigint
  readonly denominator: bigint
}

/** The digits behind the point of the smallest units a step starts from and ends in. */
export interface UnitDigits {
  readonly source: number
  readonly target: number
}

export const IDENTITY: Operation = { numerator: 1n, addend: 0n, denominator: 1n }

/**
 * What a method does to what it starts from.
 *
 * Errors  throws `RangeError` for a fixed amount, which starts from nothing.
 */
export function methodOperation(method: PriceMethod, digits: UnitDigits): Operation {
  switch (method.kind) {
    case 'fixed':
      throw new RangeError('a fixed amount starts from nothing')
    case 'amount':
      return addition(toFraction(method.amount), digits)
    case 'percent':
    case 'markup':
      return scaling(percentFactor(method.percent), digits)
    case 'margin': {
      const { numerator, denominator } = percentFactor(negated(method.percent))
      return scaling({ numerator: denominator, denominator: numerator }, digits)
    }
  }
}

/** Times a positive factor. */
export function scaling({ numerator, denominator }: Fraction, digits: UnitDigits): Operation {
  return reduced({
    numerator: numerator * tenTo(digits.target),
    addend: 0n,
    denominator: denominator * tenTo(digits.source),
  })
}

/** Plus or minus an amount in currency units. */
export function addition(amount: Fraction, digits: UnitDigits): Operation {
  return reduced({
    numerator: amount.denominator * tenTo(digits.target),
    addend: amount.numerator * tenTo(digits.target) * tenTo(digits.source),
    denominator: amount.denominator * tenTo(digits.source),
  })
}

/** First one, then the other, with no rounding between. */
export function compose(first: Operation, second: Operation): Operation {
  return reduced({
    numerator: first.numerator * second.numerator,
    addend: first.addend * second.numerator + second.addend * first.denominator,
    denominator: first.denominator * second.denominator,
  })
}

/** What an operation makes of a value, exactly. */
export function applyOperation({ numerator, addend, denominator }: Operation, source: Fraction): Fraction {
  return {
    numerator: source.numerator * numerator + addend * source.denominator,
    denominator: source.denominator * denominator,
  }
}

/** 1 + percent ÷ 100. */
export function percentFactor(percent: Decimal): Fraction {
  const { numerator, denominator } = toFraction(add(HUNDRED, percent))
  return { numerator, denominator: denominator * 100n }
}

function negated(percent: Decimal): Decimal {
  return subtract('0' as Decimal, percent)
}

function tenTo(exponent: number): bigint {
  return 10n ** BigInt(exponent)
}

function reduced({ numerator, addend, denominator }: Operation): Operation {
  const divisor = commonDivisor(
    commonDivisor(numerator, denominator),
    addend < 0n ? -addend : addend === 0n ? numerator : addend,
  )
  return {
    numerator: numerator / divisor,
    addend: addend / divisor,
    denominator: denominator / divisor,
  }
}

function commonDivisor(left: bigint, right: bigint): bigint {
  while (right !== 0n) [left, right] = [right, left % right]
  return left
}

/** Smallest units of an amount that has at most `digits` digits. */
export function toUnits(amount: Decimal, digits: number): number {
  const point = amount.indexOf('.')
  if (amount.length + digits < 16) {
    // Short texts are exact as doubles once the point is taken out, and this is where large stores spend their time.
    if (point < 0) return Number(amount) * 10 ** digits
    const scale = amount.length - point - 1
    return Number(amount.slice(0, point) + amount.slice(point + 1)) * 10 ** (digits - scale)
  }
  const { coefficient, scale } = toDigits(amount)
  return Number(coefficient * tenTo(digits - scale))
}
