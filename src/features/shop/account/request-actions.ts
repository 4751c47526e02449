'use server'

import { NUMBER, TEXT } from '@/server/session/argument-shapes'
import { buyerAction } from '@/server/session/permit'
import { paymentTermsOf } from '@/core/cart/payment-terms'
import { makeOrder } from '@/core/order/make-order'
import { currentInstant } from '@/server/clock'
import { getSteppe } from '@/server/engine/steppe'
import { placeOrder } from '@/server/orders/place-order'
import { askForCard } from '@/server/payments/card-stand-in'
import { ownerOf, shopView } from '@/server/session/shop-session'
import { claimRequest, findRequest, turnDown } from '@/server/shop/order-requests'
import { redirect } from 'next/navigation'
import { seenTotal } from '../cart/load-cart'
import { CARD_SENTENCES, findCardFault } from '../checkout/card-sentences'
import { enterShopPage } from '../entrance/enter'
import { NO_ROOM, withRoomOr } from '../frame/with-room'
import { priceRequest } from './load-request'

/** What is wrong, by field; empty where it is done. */
export interface Decided {
  readonly problems: Readonly<Record<string, string>>
}

const DECIDED = 'Somebody has decided on this a moment ago. Reload to see how.'
const NOT_YOURS = 'Only those of your account who approve can decide on this.'

/** Lets an order of a colleague through, at the total that was looked at. */
export const letThrough = buyerAction(
  [NUMBER, TEXT, TEXT],
  async (id: number, seen: string, card: string): Promise<Decided> => {
    const visitor = await enterShopPage()
    if (visitor.person?.approves !== true) return problem(NOT_YOURS)
    if ((await shopView()).draft !== null)
      return problem('The shop is looked at through a draft: nothing can be ordered in it.')
    const priced = await priceRequest(visitor, id)
    if (!priced || priced.request.state !== 'waiting') return problem(DECIDED)
    const { request, loaded, visitor: there } = priced
    const { cart } = loaded
    const { wanted } = request
    if (cart.problems.length > 0 || cart.lines.length === 0)
      return problem('Something is in the way of this order now: see beside its lines.')
    if (seenTotal(cart) !== seen)
      return problem('The total has changed since you looked. Check it, then decide.')
    const terms = paymentTermsOf(there.pricingContext)
    const isByCard = wanted.payment === 'card' || terms === ''
    if (isByCard) {
      const fault = findCardFault(card)
      if (fault !== null) return { problems: { card: fault } }
      const paid = askForCard(card)
      if (!paid.ok) return { problems: { card: CARD_SENTENCES[paid.code] } }
    }
    const steppe = await getSteppe()
    const account = ownerOf(visitor).account
    const document = makeOrder(there.prepared, there.pricingContext, cart, {
      ...{ buyer: there.name, email: request.person, address: wanted.address, reference: wanted.reference },
      ...{ payment: isByCard ? 'card' : terms, placedBy: null, changeSet: steppe.lastChangeSet },
    })
    const at = currentInstant()
    const placed = await withRoomOr(
      () =>
        placeOrder(steppe, {
          owner: { account, visitor: `request-${id}` },
          ...{ document, at, seenLast: loaded.lastOrder },
          claim: claimRequest(request, { by: visitor.person?.name ?? '', at }),
        }),
      () => null,
    )
    if (placed === null) return problem(NO_ROOM)
    if (placed.ok) redirect(`/shop/orders/${placed.number}`)
    switch (placed.code) {
      case 'cart-gone':
        return problem(DECIDED)
      case 'used-up':
        return problem(
          `“${placed.promotion}” has just been used for the last time. Check the total, then decide.`,
        )
      case 'short':
        return problem('Somebody was quicker: not as many are left. Check the lines, then decide.')
      case 'ordered-meanwhile':
        return problem('Somebody of your account has ordered a moment ago. Check that this is still wanted.')
    }
  },
)

/** Turns an order of a colleague down, with a reason they read. */
export const turnRequestDown = buyerAction(
  [NUMBER, TEXT],
  async (id: number, reason: string): Promise<Decided> => {
    const visitor = await enterShopPage()
    const { person } = visitor
    const { account } = ownerOf(visitor)
    if (person?.approves !== true || account === null) return problem(NOT_YOURS)
    const words = String(reason).trim().slice(0, 500)
    if (words === '') return { problems: { reason: 'Say why, so that they know.' } }
    const steppe = await getSteppe()
    const request = await findRequest(steppe, id, account)
    if (!request) return problem(DECIDED)
    const isDone = await withRoomOr(
      () => turnDown(steppe, request, { by: person.name, at: currentInstant(), reason: words }),
      () => null,
    )
    if (isDone === null) return problem(NO_ROOM)
    return isDone ? { problems: {} } : problem(DECIDED)
  },
)

function problem(text: string): Decided {
  return { problems: { all: text } }
}
