'use server'

import { FORM, THING } from '@/server/session/argument-shapes'
import { buyerAction, shopAction } from '@/server/session/permit'
import { type Account } from '@/core/buyers/buyer'
import { paymentTermsOf } from '@/core/cart/payment-terms'
import { openPricingContextExactly } from '@/core/engine/price/open-pricing-context'
import { makeOrder } from '@/core/order/make-order'
import type { OrderAddress } from '@/core/order/order'
import { readPlace } from '@/core/places/iso-3166'
import { PLACE_TEXT, placeText } from '@/core/engine/context/vantage'
import type { Store } from '@/core/store/store'
import { currentInstant } from '@/server/clock'
import { getSteppe } from '@/server/engine/steppe'
import {
  cartOfVisitor,
  chooseInShop,
  ownerOf,
  shopView,
  type ShopVisitor,
} from '@/server/session/shop-session'
import { writeCartFacts } from '@/server/shop/cart-store'
import { placeOrder } from '@/server/orders/place-order'
import { askForCard } from '@/server/payments/card-stand-in'
import { redirect } from 'next/navigation'
import { enterShopPage } from '../entrance/enter'
import { PLACE_SENTENCES } from '@/ui/cart/cart-problems'
import { loadCart, seenTotal } from '../cart/load-cart'
import { NO_ROOM, withRoom, withRoomOr } from '../frame/with-room'
import { needsApproval, putBeforeApprovers } from './approval'
import { CARD_SENTENCES, findCardFault } from './card-sentences'
import { isEmail } from '@/core/buyers/email'
import { LONGEST_FIELD, MALFORMED_EMAIL, readAddress, readFields } from './read-address'

/** What is wrong with a checkout form, by field; nothing typed is lost. */
export interface CheckoutState {
  readonly problems: Readonly<Record<string, string>>
  readonly typed: Readonly<Record<string, string>>
}

/**
 * Places the order at the figures the buyer saw, or says what must be mended first. When the address moves the taxes
 * the sums are shown again before anything is bought.
 */
export const checkOut = buyerAction(
  [THING, FORM],
  async (_before: CheckoutState, form: FormData): Promise<CheckoutState> => {
    const visitor = await enterShopPage()
    const { store } = visitor.prepared
    const typed = readFields(form)
    const text = (name: string) => typed[name] ?? ''
    const account = accountOf(visitor, store)
    const terms = paymentTermsOf(visitor.pricingContext)
    const { address, place, deliverTo, problems } = readAddress(store, typed)
    const email = visitor.person?.email ?? account?.emails[0] ?? typed['email'] ?? ''
    if (!isEmail(email)) problems['email'] = MALFORMED_EMAIL
    const payment = text('payment')
    const cardFault = payment === 'card' && typed['approval'] !== '1' ? findCardFault(text('card')) : null
    if (cardFault !== null) problems['card'] = cardFault
    if (payment === 'terms' && terms === '')
      problems['payment'] = 'Paying on account has not been agreed. Choose card.'
    if (Object.keys(problems).length > 0) return { problems, typed }

    // Taxes and prices follow the address: what is bought is what was looked at there.
    const isChosen = await withRoomOr(
      () => chooseInShop({ deliverTo: place, currency: visitor.vantage.currency ?? '' }).then(() => true),
      () => false,
    )
    if (!isChosen) return { problems: { total: NO_ROOM }, typed }
    const buyerContext = { ...visitor.buyerContext, deliverTo }
    const steppe = await getSteppe()
    const way = payment === 'terms' ? 'terms' : 'card'
    await withRoom(async () => writeCartFacts(steppe, await cartOfVisitor(), { payment: way }))
    const { cart, lines, lastOrder } = await loadCart({ ...visitor, buyerContext })
    const missing = cart.problems.flatMap((problem) => (problem.kind === 'place' ? [problem.part] : []))
    if (cart.lines.length === 0 || cart.problems.length > missing.length) redirect('/shop/cart')
    if (missing.length > 0)
      return {
        problems: Object.fromEntries(missing.map((part) => [part, PLACE_SENTENCES[part]])),
        typed,
      }
    if (seenTotal(cart) !== text('seen'))
      return {
        problems: {
          total:
            'The total has changed: the address, the way of paying, a price or a promotion changed it. Check it, then place the order.',
        },
        typed,
      }
    if ((await shopView()).draft !== null)
      return {
        problems: { total: 'The shop is looked at through a draft: nothing can be ordered in it.' },
        typed,
      }
    if (needsApproval(visitor, cart)) {
      const request = await withRoom(() =>
        putBeforeApprovers(
          { ...visitor, buyerContext },
          { cart, lines, address, way, reference: text('reference') },
        ),
      )
      redirect(request === null ? '/shop/cart' : `/shop/account/requests/${request}?asked=1`)
    }
    const opened = openPricingContextExactly(visitor.prepared, buyerContext)
    if (!opened.ok) throw new RangeError(`an order cannot be placed: ${opened.error.code}`)
    const document = makeOrder(visitor.prepared, opened.value, cart, {
      buyer: account?.name ?? address.name,
      email,
      address,
      payment: payment === 'terms' ? terms : 'card',
      reference: text('reference'),
      placedBy: null,
      changeSet: steppe.lastChangeSet,
    })
    // Who said that somebody else approves, and needs nobody's approval, pays all the same.
    const fault = way === 'card' ? findCardFault(text('card')) : null
    if (fault !== null) return { problems: { card: fault }, typed }
    const paid = way === 'card' ? askForCard(text('card')) : { ok: true as const }
    if (!paid.ok) return { problems: { card: CARD_SENTENCES[paid.code] }, typed }
    const owner = { account: ownerOf(visitor).account, visitor: await cartOfVisitor() }
    const placing = { owner, document, at: currentInstant(), seenLast: lastOrder }
    const placed = await withRoom(() => placeOrder(steppe, placing))
    if (placed.ok) redirect(`/shop/orders/${placed.number}?placed=1`)
    switch (placed.code) {
      case 'cart-gone':
        return redirect('/shop/orders')
      case 'used-up':
        return {
          problems: {
            total: `“${placed.promotion}” has just been used for the last time. The total is shown without it: check it, then place the order.`,
          },
          typed,
        }
      case 'short':
        return redirect('/shop/cart?short=1')
      case 'ordered-meanwhile':
        return {
          problems: {
            total:
              'Somebody of your account has ordered a moment ago. Check that you still want this, then place the order.',
          },
          typed,
        }
    }
  },
)

export type PlaceOfOrder = Pick<OrderAddress, 'country' | 'state' | 'postcode' | 'city'>

/** Looks at the cart from the address that is being typed, as far as it can be read, so that its taxes show at once. */
export const lookAtPlace = shopAction([THING], async (address: PlaceOfOrder): Promise<void> => {
  const visitor = await enterShopPage()
  const text = (part: unknown) => (typeof part === 'string' ? part.trim().slice(0, LONGEST_FIELD) : '')
  const given = {
    country: text(address.country),
    state: text(address.state),
    postcode: text(address.postcode),
    city: text(address.city),
  }
  const read = readPlace(given)
  const place = placeText(read.ok ? read.place : { ...given, state: '' })
  if (!PLACE_TEXT.test(place)) return
  await withRoom(() => chooseInShop({ deliverTo: place, currency: visitor.vantage.currency ?? '' }))
})

function accountOf({ buyerContext }: ShopVisitor, store: Store): Account | null {
  const { buyer } = buyerContext
  return buyer.kind === 'account' ? (store.account.get(buyer.account) ?? null) : null
}
