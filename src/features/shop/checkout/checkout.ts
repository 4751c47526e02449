'use server'

import { type Account } from '@/core/buyers/buyer'
import { paymentTermsOf } from '@/core/cart/payment-terms'
import { openPricingContextExactly } from '@/core/engine/price/open-pricing-context'
import { makeOrder } from '@/core/order/make-order'
import type { OrderAddress } from '@/core/order/order'
import { readPlace } from '@/core/places/iso-3166'
import { PLACE_TEXT, placeText } from '@/core/engine/context/vantage'
import { findTextFault } from '@/core/issue/text-fault'
import { regionsOf } from '@/core/places/place'
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
import { PLACE_SENTENCES } from '../cart/cart-problems'
import { countryName } from '@/ui/format/place-names'
import { loadCart, seenTotal } from '../cart/load-cart'
import { NO_ROOM, withRoom, withRoomOr } from '../frame/with-room'

/** What is wrong with a checkout form, by field; nothing typed is lost. */
export interface CheckoutState {
  readonly problems: Readonly<Record<string, string>>
  readonly typed: Readonly<Record<string, string>>
}

/** Longer is nobody's name or street; what is cut off is refused. */
const LONGEST_FIELD = 201
const LONGEST: Readonly<Record<string, number>> = { postcode: 20, city: 60, state: 6, reference: 60 }

const CARD_SENTENCES = {
  declined: 'The card was declined. Nothing was ordered: try another card.',
  'no-answer': 'The bank did not answer. Nothing was ordered and nothing charged: try again.',
} as const

const ADDRESS = ['name', 'street', 'postcode', 'city', 'state', 'country'] as const

/**
 * Places the order at the figures the buyer saw, or says what must be mended first. When the address moves the taxes
 * the sums are shown again before anything is bought.
 */
export async function checkOut(_before: CheckoutState, form: FormData): Promise<CheckoutState> {
  const visitor = await enterShopPage()
  const { store } = visitor.prepared
  const text = (name: string) =>
    String(form.get(name) ?? '')
      .trim()
      .slice(0, LONGEST_FIELD)
  const typed = Object.fromEntries(
    [...form.keys()].filter((name) => !name.startsWith('$')).map((name) => [name, text(name)]),
  )
  const account = accountOf(visitor, store)
  const terms = paymentTermsOf(visitor.pricingContext)
  const address = Object.fromEntries(ADDRESS.map((field) => [field, text(field)])) as unknown as OrderAddress
  const problems: Record<string, string> = {}
  for (const field of ['name', 'street', 'city'] as const)
    if (address[field] === '') problems[field] = 'This must not be empty.'
  for (const [field, value] of Object.entries(typed)) {
    const longest = LONGEST[field] ?? LONGEST_FIELD - 1
    if (value.length > longest) problems[field] = `This is too long: at most ${longest} characters.`
    if (findTextFault(value, 1)) problems[field] = 'This holds characters that are not text.'
  }
  const email = account?.emails[0] ?? text('email')
  if (!/^[^\s@]+@[^\s@]+$/.test(email)) problems['email'] = 'Write it like name@example.com.'
  const read = readPlace(address)
  const country = read.ok || read.field === 'state' ? address.country.toUpperCase() : ''
  const state = read.ok ? read.place.state : address.state
  if (country === '') problems['country'] = 'Choose a country.'
  else if (regionsOf(store.region, { ...address, country, state }).length === 0)
    problems['country'] =
      `We do not deliver to ${countryName(country)} yet. Choose another country, or ask us.`
  const place = placeText({ country, state, postcode: address.postcode, city: address.city })
  if (!read.ok && read.field === 'state')
    problems['state'] =
      `“${address.state}” is not the code of a state of ${countryName(country)}.${read.nearest ? ` Did you mean ${read.nearest}?` : ' Leave it empty.'}`
  else if (!problems['country'] && !PLACE_TEXT.test(place))
    problems['city'] = 'This is too long, or contains a slash.'
  const payment = text('payment')
  if (payment === 'card' && !/^\d{12,19}$/.test(text('card').replace(/\s+/g, '')))
    problems['card'] =
      'A card number has 12 to 19 digits. Payments are simulated: any number works, save that one ending in 0002 is declined.'
  if (payment === 'terms' && terms === '')
    problems['payment'] = 'Paying on account has not been agreed. Choose card.'
  if (Object.keys(problems).length > 0) return { problems, typed }

  // Taxes and prices follow the address: what is bought is what was looked at there.
  const deliverTo = { country, state, postcode: address.postcode, city: address.city }
  const isChosen = await withRoomOr(
    () => chooseInShop({ deliverTo: place, currency: visitor.vantage.currency ?? '' }).then(() => true),
    () => false,
  )
  if (!isChosen) return { problems: { total: NO_ROOM }, typed }
  const buyerContext = { ...visitor.buyerContext, deliverTo }
  const steppe = await getSteppe()
  const way = payment === 'terms' ? 'terms' : 'card'
  await withRoom(async () => writeCartFacts(steppe, await cartOfVisitor(), { payment: way }))
  const { cart, lastOrder } = await loadCart({ ...visitor, buyerContext })
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
  const opened = openPricingContextExactly(visitor.prepared, buyerContext)
  if (!opened.ok) throw new RangeError(`an order cannot be placed: ${opened.error.code}`)
  const document = makeOrder(visitor.prepared, opened.value, cart, {
    buyer: account?.name ?? address.name,
    email,
    address: { ...address, country, state },
    payment: payment === 'terms' ? terms : 'card',
    reference: text('reference'),
    placedBy: null,
    changeSet: steppe.lastChangeSet,
  })
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
}

export type PlaceOfOrder = Pick<OrderAddress, 'country' | 'state' | 'postcode' | 'city'>

/** Looks at the cart from the address that is being typed, as far as it can be read, so that its taxes show at once. */
export async function lookAtPlace(address: PlaceOfOrder): Promise<void> {
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
}

function accountOf({ buyerContext }: ShopVisitor, store: Store): Account | null {
  const { buyer } = buyerContext
  return buyer.kind === 'account' ? (store.account.get(buyer.account) ?? null) : null
}
