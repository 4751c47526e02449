import { add, type Decimal, HUNDRED } from '../decimal/decimal'
import { type Fraction, toFraction } from '../decimal/fraction'

/** Whether an amount already contains its tax. */
export type TaxBasis = 'net' | 'gross'

/** An amount that knows whether it contains its tax: with and without tax never meet as bare numbers. */
export interface BasedAmount {
  readonly amount: Decimal
  readonly basis: TaxBasis
}

const SAME: Fraction = { numerator: 1n, denominator: 1n }

/**
 * What to multiply an amount of one basis by to have it in another, exactly.
 *
 * Units   `percent` is what all taxes together come to, in percent of the net.
 * Errors  none: taxes that take away all of a price or more leave nothing to compare, so the amount stays.
 * Source  gross = net × (1 + rate).
 */
export function basisFactor(from: TaxBasis, to: TaxBasis, percent: Decimal): Fraction {
  if (from === to) return SAME
  const whole = toFraction(add(HUNDRED, percent))
  if (whole.numerator <= 0n) return SAME
  const up = { numerator: whole.numerator, denominator: whole.denominator * 100n }
  return to === 'gross' ? up : { numerator: up.denominator, denominator: up.numerator }
}
