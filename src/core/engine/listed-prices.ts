import { compare, type Decimal, ONE } from '../decimal/decimal'
import type { PreparedStore } from './context/prepared-store'
import type { PricingContext } from './context/pricing-context'
import type { Answer } from './explain/trace'
import { displayOf, taxPrice } from './rules/find-tax'

/** What one costs from a quantity on. */
export interface ListedPrice {
  readonly from: Decimal
  readonly price: Decimal
}

/** Whether prices are listed with tax or without, as the shop shows them to this buyer. */
export function listedBasis(prepared: PreparedStore, context: PricingContext): 'net' | 'gross' {
  return displayOf(prepared, context, 'shop') === 'net' ? 'net' : 'gross'
}

/**
 * What a buyer reads of an item on a price list: the price of one after promotions on item prices, and of the quantities it changes at.
 *
 * number    of the variant in the index
 * answered  for one piece without extras
 * Errors    `null` where no price may be seen, or there is none
 */
export function listedPrices(
  prepared: PreparedStore,
  context: PricingContext,
  number: number,
  { see, seePrice, unit, basis, promoted, breaks }: Answer,
): readonly [ListedPrice, ...ListedPrice[]] | null {
  if (!see || !seePrice || unit === null) return null
  const shows = listedBasis(prepared, context)
  const as = (amount: Decimal, of: Answer['basis']) =>
    taxPrice(prepared, context, number, { amount, basis: of })[shows]
  const one = promoted?.unit ? as(promoted.unit, promoted.basis) : as(unit, basis)
  const more = breaks.filter(({ from }) => compare(from, ONE) > 0)
  return [
    { from: ONE, price: one },
    ...more.map((each) => ({
      from: each.from,
      price: each.promoted ? as(each.promoted.amount, each.promoted.basis) : as(each.unit, each.basis),
    })),
  ]
}
