import 'server-only'

import type { Address } from '@/core/buyers/buyer'
import { paymentTermsOf } from '@/core/cart/payment-terms'
import type { ShopVisitor } from '@/server/session/shop-session'
import type { CartView } from '../cart/cart-view'
import { needsApproval } from './approval'
import { loadCart, seenTotal, toCartView } from '../cart/load-cart'
import { shopChoices } from '../catalogue/load-shop'

/** What a checkout form starts with. */
export interface CheckoutView {
  readonly cart: CartView
  /** The total that is being looked at. */
  readonly seen: string
  readonly email: string
  readonly name: string
  readonly address: Omit<Address, 'label'>
  /** Addresses on file to choose from. */
  readonly addresses: readonly Address[]
  readonly countries: readonly { readonly code: string; readonly name: string }[]
  /** On which terms an account may pay; empty for who pays at once. */
  readonly terms: string
  /** Who has to let the order through; empty where nobody need. */
  readonly approvers: string
  /** How they said they would pay; `null` while they have not. */
  readonly payment: 'card' | 'terms' | null
}

export async function loadCheckout(visitor: ShopVisitor): Promise<CheckoutView> {
  const loaded = await loadCart(visitor)
  const { cart } = loaded
  const { store } = visitor.prepared
  const { buyer } = visitor.buyerContext
  const account = buyer.kind === 'account' ? store.account.get(buyer.account) : undefined
  const { deliverTo } = visitor.pricingContext
  const known = account?.addresses.find(
    (each) => each.country === deliverTo.country && each.postcode === deliverTo.postcode,
  )
  return {
    cart: toCartView(visitor, loaded),
    seen: seenTotal(cart),
    email: account?.emails[0] ?? '',
    name: account?.name ?? '',
    address: { street: known?.street ?? '', ...deliverTo, country: deliverTo.country },
    addresses: account?.addresses ?? [],
    countries: shopChoices(visitor).countries,
    terms: paymentTermsOf(visitor.pricingContext),
    approvers: needsApproval(visitor, cart)
      ? (account?.people.filter(({ approves }) => approves) ?? []).map(({ name }) => name).join(' or ')
      : '',
    payment: loaded.question.promotions?.payment ?? null,
  }
}
