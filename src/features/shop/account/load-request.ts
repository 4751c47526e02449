import 'server-only'

import { paymentTermsOf } from '@/core/cart/payment-terms'
import { openPricingContextExactly } from '@/core/engine/price/open-pricing-context'
import { getSettings } from '@/core/store/store'
import { getSteppe } from '@/server/engine/steppe'
import { ownerOf, type ShopVisitor } from '@/server/session/shop-session'
import { findRequest, type OrderRequest } from '@/server/shop/order-requests'
import { factsOfBuyer } from '@/server/shop/promotion-facts'
import { formatMoney } from '@/ui/format/amount'
import { formatMoment } from '@/ui/format/instant'
import { countryName } from '@/ui/format/place-names'
import { type LoadedCart, loadLines, seenTotal, toCartView } from '../cart/load-cart'
import type { RequestView } from './request-view'

/** A request as its order would be placed now. */
export interface PricedRequest {
  readonly request: OrderRequest
  /** The visitor as they stand where it is delivered to. */
  readonly visitor: ShopVisitor
  readonly loaded: LoadedCart
}

/** Errors  `null` for none of the number of their account, and where its currency or place is gone. */
export async function priceRequest(visitor: ShopVisitor, id: number): Promise<PricedRequest | null> {
  const steppe = await getSteppe()
  const { account } = ownerOf(visitor)
  const request = account === null ? null : await findRequest(steppe, id, account)
  if (!request) return null
  const { wanted } = request
  const { country, state, postcode, city } = wanted.address
  const { prepared } = visitor
  const buyerContext = {
    ...visitor.buyerContext,
    deliverTo: { country, state, postcode, city },
    currency: wanted.currency,
  }
  const opened = openPricingContextExactly(prepared, buyerContext)
  if (!opened.ok) return null
  const there: ShopVisitor = { ...visitor, buyerContext, pricingContext: opened.value }
  const { store } = prepared
  const lines = wanted.lines.flatMap((line) =>
    store.variant.has(line.variant)
      ? [{ ...line, extras: line.extras.filter((extra) => store.extra.has(extra)) }]
      : [],
  )
  const facts = await factsOfBuyer(steppe, there, ownerOf(visitor))
  const { codes, choices, payment } = wanted
  return {
    request,
    visitor: there,
    loaded: await loadLines(there, lines, { ...facts, codes, choices, payment }),
  }
}

/** A request as it is looked at. Errors as of `priceRequest`. */
export async function loadRequest(visitor: ShopVisitor, id: number): Promise<RequestView | null> {
  const priced = await priceRequest(visitor, id)
  if (!priced) return null
  const { request, loaded, visitor: there } = priced
  const { wanted, state, name, at, decidedBy, reason, order } = request
  const { timeZone } = getSettings(visitor.prepared.store)
  const { cart } = loaded
  const { street, postcode, city, country } = wanted.address
  return {
    ...{ id, who: name, when: formatMoment(at.getTime(), timeZone), state, reason, order },
    decided: decidedBy ?? '',
    cart: toCartView(there, loaded),
    seen: seenTotal(cart),
    before:
      state === 'waiting' && wanted.total !== cart.total.gross
        ? formatMoney(wanted.total, wanted.currency, cart.digits)
        : '',
    goesTo: [wanted.address.name, street, `${postcode} ${city}`.trim(), countryName(country)]
      .filter(Boolean)
      .join(', '),
    payment: wanted.payment,
    terms: paymentTermsOf(there.pricingContext),
    mayDecide: state === 'waiting' && visitor.person?.approves === true,
  }
}
