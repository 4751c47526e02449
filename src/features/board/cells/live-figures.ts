import 'server-only'

import { type Product, resolveValue, type Variant } from '@/core/catalogue/product'
import type { Decimal } from '@/core/decimal/decimal'
import type { PreparedStore } from '@/core/engine/context/prepared-store'
import { openPricingContext } from '@/core/engine/price/open-pricing-context'
import { findPrice } from '@/core/engine/price/find-price'
import { toPrice } from '@/core/engine/lists/price-step'
import { resolveVantage, type Vantage } from '@/core/engine/context/vantage'
import type { LiveFigure } from '../board-view'
import type { LiveColumn } from '../columns/open-column'

/** What a column is live, beside a draft; `null` where there is no such buyer live. */
export function liveColumn(live: PreparedStore, vantage: Vantage, now: number): LiveColumn | null {
  const { buyerContext } = resolveVantage(live.store, vantage, now)
  const opened = openPricingContext(live, buyerContext)
  return opened.ok ? { prepared: live, pricingContext: opened.value } : null
}

/** A price live, where it is another one than through the draft; of what is not there live, nothing. */
export function livePrice(
  column: LiveColumn | null,
  variant: string,
  quantity: number,
  shown: Decimal | null,
): LiveFigure {
  if (!column) return null
  const { prepared, pricingContext } = column
  const number = prepared.index.numberOf.get(variant)
  if (number === undefined) return null
  const { units } = findPrice(prepared, pricingContext, number, { own: quantity, counted: null })
  return differing(toPrice(units, pricingContext.digits), shown)
}

/** An amount of a variant live, where it is another one. */
export function liveAmount(
  live: PreparedStore | null,
  id: string,
  field: 'basePrice' | 'cost',
  shown: Decimal | null,
): LiveFigure {
  const variant: Variant | undefined = live?.store.variant.get(id)
  const product: Product | undefined = variant && live?.store.product.get(variant.product)
  return variant && product ? differing(resolveValue(product, variant, field).value, shown) : null
}

/** The base price of a product live, where it is another one. */
export function liveBase(live: PreparedStore | null, id: string, shown: Decimal | null): LiveFigure {
  const product = live?.store.product.get(id)
  return product ? differing(product.basePrice, shown) : null
}

function differing(amount: Decimal | null, shown: Decimal | null): LiveFigure {
  return amount === shown ? null : { amount }
}
