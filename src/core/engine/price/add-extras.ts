import type { Decimal } from '../../decimal/decimal'
import { addFractions, type Fraction, toFraction } from '../../decimal/fraction'
import { roundToDigits } from '../../decimal/rounding'
import type { BasedAmount } from '../../price/based-amount'
import type { BasedUnits } from '../lists/based-units'
import { inBasis } from '../amounts/basis'
import type { PreparedStore } from '../context/prepared-store'
import { fromUnits } from '../lists/price-step'
import type { PricingContext } from '../context/pricing-context'

/** An item with the extras wanted with each piece of it, in the basis of the item's price. */
export interface WithExtras {
  /** As it shows: rounded once, to the digits of a price. */
  readonly unit: Decimal
  /** What the extras add to each piece, exactly. */
  readonly extras: Fraction
}

/**
 * Adds what is wanted with an item to its price. Extras of another basis are brought to the item's exactly, by the
 * taxes of the item, as which they are taxed.
 *
 * Errors  `null` when the item or an extra has no price.
 */
export function addExtras(
  prepared: PreparedStore,
  pricingContext: PricingContext,
  number: number,
  item: BasedUnits,
  extras: readonly BasedUnits[],
): WithExtras | null {
  const { digits, currencyView } = pricingContext
  const main = basedPrice(item, digits)
  if (!main) return null
  let added: Fraction = { numerator: 0n, denominator: 1n }
  for (const extra of extras) {
    const price = basedPrice(extra, digits)
    if (!price) return null
    added = addFractions(added, inBasis(prepared, currencyView, number, price, main.basis))
  }
  if (added.numerator === 0n) return { unit: main.amount, extras: added }
  const unit = roundToDigits(addFractions(toFraction(main.amount), added), digits, 'half-up')
  return { unit, extras: added }
}

/** A price found in smallest units as an amount; `null` where there is none. */
export function basedPrice({ units, basis }: BasedUnits, digits: number): BasedAmount | null {
  return Number.isNaN(units) ? null : { amount: fromUnits(units, digits), basis }
}
