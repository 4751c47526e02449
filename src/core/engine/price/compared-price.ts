import { toFraction } from '../../decimal/fraction'
import { roundToDigits } from '../../decimal/rounding'
import type { BasedAmount } from '../../price/based-amount'
import { getSettings } from '../../store/store'
import { amountAt, referenceAmounts } from '../amounts/amounts'
import type { BasedUnits } from '../lists/based-units'
import { comparePrices, storeBasis } from '../amounts/basis'
import type { Quantities } from './find-in-list'
import { findPrice, ONE_PIECE } from './find-price'
import { findRights } from '../rules/find-rights'
import { makeCurrencyView } from '../context/currency-view'
import { openPricingContext } from './open-pricing-context'
import type { PreparedStore } from '../context/prepared-store'
import { toUnits } from '../lists/operation'
import { fromUnits } from '../lists/price-step'
import type { PricingContext } from '../context/pricing-context'
import type { BuyerContext } from '../context/buyer-context'

/**
 * The price a buyer's is compared with, struck through in the shop: as the store says, and before any adjustment, in its
 * own basis.
 *
 * Errors  `null` when nothing is compared, there is no such price, or it is not higher.
 */
export function findComparedPrice(
  prepared: PreparedStore,
  pricingContext: PricingContext,
  buyerContext: BuyerContext,
  number: number,
  quantities: Quantities,
  /** What the buyer pays, where that is not the price found. */
  own: BasedUnits = findPrice(prepared, pricingContext, number, quantities),
): BasedAmount | null {
  const { comparedWith } = getSettings(prepared.store)
  if (comparedWith === 'nothing') return null
  if (comparedWith === 'prior') return reducedFrom(prepared, pricingContext, buyerContext, number, own)
  const other =
    comparedWith === 'public'
      ? publicPrice(prepared, pricingContext, buyerContext, number, quantities)
      : {
          units: referenceUnits(prepared, pricingContext, comparedWith, number),
          basis: storeBasis(prepared),
        }
  if (!other || other.units !== other.units || own.units !== own.units) return null
  if (comparePrices(prepared, pricingContext.currencyView, number, other, own) <= 0) return null
  return { amount: fromUnits(other.units, pricingContext.digits), basis: other.basis }
}

/**
 * The lowest price the public paid before it was reduced, for whoever pays what the public pays: an agreement is no reduction.
 *
 * Source  Directive 98/6/EC, Article 6a: only a price reduction is announced beside a prior price.
 */
function reducedFrom(
  prepared: PreparedStore,
  pricingContext: PricingContext,
  buyerContext: BuyerContext,
  number: number,
  own: BasedUnits,
): BasedAmount | null {
  const prior = buyerContext.priorPrices?.get(prepared.index.items[number] as string)
  if (prior === undefined || own.units !== own.units) return null
  // Brought from another basis it may have more digits than a price.
  const amount = roundToDigits(toFraction(prior), pricingContext.digits, 'half-up')
  const other = { units: toUnits(amount, pricingContext.digits), basis: storeBasis(prepared) }
  if (comparePrices(prepared, pricingContext.currencyView, number, other, own) <= 0) return null
  if (buyerContext.buyer.kind !== 'guest') {
    const mine = findPrice(prepared, pricingContext, number, ONE_PIECE)
    const guests = publicPrice(prepared, pricingContext, buyerContext, number, ONE_PIECE)
    if (!guests || comparePrices(prepared, pricingContext.currencyView, number, guests, mine) !== 0)
      return null
  }
  return { amount, basis: other.basis }
}

function publicPrice(
  prepared: PreparedStore,
  { currency, deliverTo }: PricingContext,
  buyerContext: BuyerContext,
  number: number,
  quantities: Quantities,
): BasedUnits | null {
  if (buyerContext.buyer.kind === 'guest') return null
  const guest = openPricingContext(prepared, {
    ...buyerContext,
    buyer: { kind: 'guest' },
    passcode: null,
    currency,
    deliverTo,
  })
  // What the public is not shown is no public price.
  if (!guest.ok || !findRights(prepared, guest.value, number).seePrice) return null
  return findPrice(prepared, guest.value, number, quantities)
}

function referenceUnits(
  prepared: PreparedStore,
  { currencyView }: PricingContext,
  comparedWith: 'base' | 'recommended',
  number: number,
): number {
  const field = comparedWith === 'base' ? 'basePrice' : 'recommendedPrice'
  const unadjusted =
    currencyView.adjustments.length === 0
      ? currencyView
      : makeCurrencyView({ ...currencyView, store: prepared.store, adjustments: [] })
  return amountAt(referenceAmounts(prepared, field, unadjusted), number)
}
