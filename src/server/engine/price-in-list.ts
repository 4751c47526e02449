import 'server-only'

import type { CompiledList } from '@/core/engine/lists/compiled-list'
import type { CurrencyView } from '@/core/engine/context/pricing-context'
import { currencyViewInto } from '@/core/engine/context/currency-view'
import { emptyListPrice, findInList } from '@/core/engine/price/find-in-list'
import type { RequestContext } from './request-context'

/** What a list gives for an item at the quantity looked at; `units` is NaN where it has no price. */
export interface PriceInList {
  /** Into the list's currency, in whose smallest units the price is. */
  readonly currencyView: CurrencyView
  readonly units: number
  /** Place of the line that gives it; a place of no line is the default. Meaningless without a price. */
  readonly line: number
}

/**
 * The price of an item, by its number, in one list whoever it is for, before any comparison with other lists.
 *
 * Units  smallest units of the list's currency, in the basis of the list.
 */
export function priceInList(
  { prepared, pricingContext, quantity }: Pick<RequestContext, 'prepared' | 'pricingContext' | 'quantity'>,
  compiled: CompiledList,
  number: number,
): PriceInList {
  const currencyView = currencyViewInto(prepared, pricingContext.currencyView, compiled.list.currency)
  const found = emptyListPrice()
  const isFound = findInList(
    prepared,
    currencyView,
    compiled,
    number,
    { own: quantity, counted: null },
    found,
  )
  return { currencyView, units: isFound ? found.units : Number.NaN, line: found.line }
}
