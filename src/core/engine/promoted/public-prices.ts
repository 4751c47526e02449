import type { Decimal } from '../../decimal/decimal'
import { NO_FACTS } from '../../promotions/facts'
import { validityAround } from '../../predicates/when'
import { shownInBasis, storeBasis } from '../amounts/basis'
import { columnPrice, computeColumn } from '../column/price-column'
import type { BuyerContext } from '../context/buyer-context'
import type { PreparedStore } from '../context/prepared-store'
import { ONE_PIECE } from '../price/find-price'
import { openPricingContext } from '../price/open-pricing-context'
import { openItemPromotions } from './item-promotions'
import { promotedColumn } from './promoted-column'

/** What the public pays for one piece of every item, after promotions on item prices. */
export interface PublicPrices {
  /** Epoch milliseconds: until then nothing starts or ends by itself. */
  readonly until: number
  /** The price of an item, by its number, in the basis of the store; `null` where there is none. */
  readonly priceOf: (number: number) => Decimal | null
  /** The same numbers for the same prices, to compare two states by; `null` where amounts have more than one basis. */
  readonly units: Float64Array | null
}

/**
 * What guests pay in a channel, a place and a currency at an instant.
 *
 * Errors  `null` where nobody can stand there.
 */
export function publicPrices(prepared: PreparedStore, from: BuyerContext, at: number): PublicPrices | null {
  const opened = openPricingContext(prepared, { ...from, buyer: { kind: 'guest' }, passcode: null, at })
  if (!opened.ok) return null
  const { value: pricingContext } = opened
  const column = computeColumn(prepared, pricingContext, ONE_PIECE.own)
  const { prices, by } = promotedColumn(openItemPromotions(prepared, pricingContext, at, NO_FACTS), column)
  const basis = storeBasis(prepared)
  const ends = prepared.terms.promotions.map(({ schedule }) => validityAround(schedule, at).until)
  return {
    until: Math.min(pricingContext.validity.until, ...ends),
    units: column.bases === null ? prices : null,
    priceOf: (number) => {
      const units = prices[number] as number
      const price = by[number] === 0 ? columnPrice(prepared, column, number) : { units, basis }
      return shownInBasis(prepared, pricingContext.currencyView, number, price, basis)
    },
  }
}
