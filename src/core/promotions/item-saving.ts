import type { Decimal } from '../decimal/decimal'
import {
  type Fraction,
  leastFraction,
  percentOfFraction,
  subtractFractions,
  toFraction,
  ZERO_FRACTION,
} from '../decimal/fraction'
import { roundPrice, roundToDigits } from '../decimal/rounding'
import type { Money, Promotion, Saving } from './promotion'

/** The amount of a saving that has one. */
export function amountOf(saving: Exclude<Saving, { readonly kind: 'percent' }>): Money {
  return saving.kind === 'amount' ? saving.amount : saving.price
}

/** What a saving takes off some of what is bought; `amount` is that of the saving for as many, in the buyer's currency. */
export function takenOff(saving: Saving, whole: Fraction, amount: Fraction): Fraction {
  if (saving.kind === 'percent') return percentOfFraction(whole, saving.percent)
  if (saving.kind === 'amount') return leastFraction(amount, whole)
  const off = subtractFractions(whole, amount)
  return off.numerator > 0n ? off : ZERO_FRACTION
}

/**
 * The price of a unit as a promotion rounds it: by its rule, else to the digits prices have. A rule finer than these gives a
 * price that is rounded once more.
 */
export function roundUnit(price: Fraction, { rounding }: Promotion, digits: number): Decimal {
  const ruled = rounding && roundPrice(price, rounding)
  return roundToDigits(ruled ? toFraction(ruled) : price, digits, 'half-up')
}
