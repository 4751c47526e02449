import { findOwnAmount, type ReferenceField } from '../catalogue/product'
import type { Decimal } from '../decimal/decimal'
import { shownInBasis, storeBasis } from '../engine/amounts/basis'
import { conversionInto, currencyViewInto } from '../engine/context/currency-view'
import type { PreparedStore } from '../engine/context/prepared-store'
import { toUnits } from '../engine/lists/operation'
import { runPriceStep } from '../engine/lists/price-step'
import { openPricingContext } from '../engine/price/open-pricing-context'
import { getSettings } from '../store/store'
import { currencyOfTarget, type RepriceTarget } from './reprice-target'

/** An amount of an item that a rule may start from, in the currency and basis of what it changes; `null` for none. */
export type Sources = (field: ReferenceField, number: number) => Decimal | null

/**
 * Amounts of items beside the ones a rule changes: as they are set in the currency, else converted at the rates of an instant
 * (epoch milliseconds), with or without tax as what is changed is.
 *
 * Errors  every amount is `null` where there is no rate.
 */
export function sourcesFor(prepared: PreparedStore, target: RepriceTarget, at: number): Sources {
  const { store, index } = prepared
  const home = getSettings(store).currency
  const currency = currencyOfTarget(store, target)
  const basis =
    target.kind === 'list'
      ? (prepared.lists.get(target.list)?.basis ?? storeBasis(prepared))
      : storeBasis(prepared)
  const opened = openPricingContext(prepared, {
    buyer: { kind: 'guest' },
    channel: null,
    deliverTo: null,
    currency: null,
    passcode: null,
    at,
  })
  const view = opened.ok ? currencyViewInto(prepared, opened.value.currencyView, currency) : null
  const conversion = view && currency !== home ? conversionInto(prepared, view, home) : null
  return (field, number) => {
    const variant = store.variant.get(index.items[number] as string)
    const product = variant && store.product.get(variant.product)
    if (!variant || !product) return null
    const atHome = variant[field] ?? product[field]
    const own = currency === home ? atHome : findOwnAmount(product, variant, field, currency)
    if (own === null && (atHome === null || !conversion)) return null
    if (!view) return own
    const units =
      own === null && conversion
        ? runPriceStep(conversion, toUnits(atHome as Decimal, getSettings(store).priceDigits))
        : toUnits(own as Decimal, view.digits)
    return shownInBasis(prepared, view, number, { units, basis: storeBasis(prepared) }, basis)
  }
}
