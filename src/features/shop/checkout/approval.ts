import 'server-only'

import type { Cart, CartLineWanted } from '@/core/cart/cart'
import { compare, type Decimal } from '@/core/decimal/decimal'
import { intoHome } from '@/core/engine/context/currency-view'
import type { OrderAddress } from '@/core/order/order'
import { currentInstant } from '@/server/clock'
import { getSteppe } from '@/server/engine/steppe'
import { cartOfVisitor, ownerOf, type ShopVisitor } from '@/server/session/shop-session'
import { readCartFacts } from '@/server/shop/cart-store'
import { askApproval } from '@/server/shop/order-requests'

/** Whether somebody of the account has to let goods of a value through; `net` is without tax. */
export function isAboveLimit(
  { prepared, pricingContext, person }: Pick<ShopVisitor, 'prepared' | 'pricingContext' | 'person'>,
  net: Decimal,
  currency: string,
): boolean {
  if (!person || person.approves || person.limit === null) return false
  const value = intoHome(prepared, pricingContext.currencyView, net, currency)
  // Of what nobody knows the worth somebody else decides.
  return value === null || compare(value, person.limit) > 0
}

export function needsApproval(visitor: ShopVisitor, { goods, currency }: Cart): boolean {
  return isAboveLimit(visitor, goods.net, currency)
}

/** Puts a cart before those of the account who approve. Errors  `null` where it was ordered or sent a moment ago. */
export async function putBeforeApprovers(
  visitor: ShopVisitor,
  wanted: {
    readonly cart: Cart
    readonly lines: readonly CartLineWanted[]
    readonly address: OrderAddress
    readonly way: 'card' | 'terms'
    readonly reference: string
  },
): Promise<number | null> {
  const steppe = await getSteppe()
  const { person, prepared, cart: id } = visitor
  const { account } = ownerOf(visitor)
  const record = account === null ? undefined : prepared.store.account.get(account)
  if (!person || !record) return null
  const { codes, choices } = await readCartFacts(steppe, id)
  const { cart, lines, address, way, reference } = wanted
  return askApproval(
    steppe,
    {
      ...{ lines, codes, choices, payment: way, address, reference },
      ...{ currency: cart.currency, total: cart.total.gross },
    },
    {
      ...{ account: record.id, person: person.email, name: person.name, at: currentInstant() },
      cart: await cartOfVisitor(),
      approvers: record.people.filter(({ approves }) => approves).map(({ email }) => email),
    },
  )
}
