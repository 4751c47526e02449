import 'server-only'

import { getSteppe } from '@/server/engine/steppe'
import type { ShopVisitor } from '@/server/session/shop-session'
import { addressesOf } from '@/server/orders/addresses-of'
import { readCart } from '@/server/shop/cart-store'
import { countryName } from '@/ui/format/place-names'
import { shopChoices } from '../catalogue/load-shop'
import { loadResolved } from '../quick/load-resolved'
import { MOST_ROWS, type QuickRow } from '../quick/quick-rows'
import type { AskView } from './ask-form'
import { linesAsked } from './ask-href'

/** A request for a quote as it begins: with what lies in the cart, or with lines an address names. */
export async function loadAsk(
  visitor: ShopVisitor,
  { isOfCart, written }: { readonly isOfCart: boolean; readonly written: readonly string[] },
): Promise<AskView> {
  const { store } = visitor.prepared
  const { buyer } = visitor.buyerContext
  const account = buyer.kind === 'account' ? store.account.get(buyer.account) : undefined
  const begun = isOfCart ? await rowsOfCart(visitor) : linesAsked(written)
  return {
    first: await loadResolved(visitor, [], 'quote'),
    begun: begun.slice(0, MOST_ROWS),
    addresses: account
      ? addressesOf(account).map(({ street, postcode, city, country }) =>
          [street, `${postcode} ${city}`.trim(), countryName(country)].filter(Boolean).join(', '),
        )
      : [],
    countries: shopChoices(visitor).countries,
    country: visitor.pricingContext.deliverTo.country,
    isGuest: account === undefined,
  }
}

async function rowsOfCart({ prepared, cart }: ShopVisitor): Promise<readonly QuickRow[]> {
  const { store } = prepared
  const lines = await readCart(await getSteppe(), prepared, cart)
  return lines.flatMap(({ variant, quantity, extras }) => {
    const sku = store.variant.get(variant)?.sku
    if (sku === undefined) return []
    const codes = extras.flatMap((id) => store.extra.get(id)?.code ?? [])
    return [{ sku, quantity, ...(codes.length > 0 ? { extras: codes } : {}) }]
  })
}
