'use server'

import { TEXT, THING } from '@/server/session/argument-shapes'
import { merchantAction } from '@/server/session/permit'
import { findMinorDigits } from '@/core/currency/iso-4217'
import { itemName } from '@/core/catalogue/product'
import { paymentTermsOf } from '@/core/cart/payment-terms'
import type { PreparedStore } from '@/core/engine/context/prepared-store'
import { makeOrder } from '@/core/order/make-order'
import { localDay } from '@/core/predicates/schedule-outlook'
import type { AskedLine, QuoteRequest } from '@/core/quote/quote'
import { getSettings } from '@/core/store/store'
import { currentInstant } from '@/server/clock'
import { DiskFullError } from '@/server/database/disk-room'
import { claimDeskOrder, type DeskOrder, findDeskOrder, saveDeskOrder } from '@/server/desk/desk-rows'
import { getSteppe, type Steppe } from '@/server/engine/steppe'
import { placeOrder } from '@/server/orders/place-order'
import type { WorkingOffer } from '@/server/quotes/quote-shape'
import { askQuote } from '@/server/quotes/take-quote-step'
import { currentAuthor } from '@/server/session/author'
import { PLACE_SENTENCES } from '@/ui/cart/cart-problems'
import { refusalSentence } from '@/ui/format/refusal-sentence'
import { type PricedDesk, priceDesk } from './price-desk'

/** What came of it: `to` is where to go on. */
export type DeskActed =
  | { readonly ok: true; readonly to: string; readonly told: string }
  | { readonly ok: false; readonly problem: string }

const DAY = 86_400_000
const GONE = 'This order was placed, given up or changed meanwhile. Reload to see what became of it.'

interface Seen {
  readonly number: number
  readonly version: number
}

/** Places an order for its buyer, at the total that was looked at. */
export const placeDesk = merchantAction(
  'desk:work',
  [THING, TEXT],
  async (seen: Seen, total: string): Promise<DeskActed> => {
    return withDesk(seen, async (steppe, prepared, order) => {
      const { content } = order
      const author = await currentAuthor()
      const now = currentInstant()
      const priced = await priceDesk(steppe, prepared, content, { at: now.getTime(), author })
      if (!priced) return no('The buyer’s currency, or the channel, is gone.')
      const hindrance = findHindrance(priced)
      if (hindrance) return no(hindrance)
      const { cart, context } = priced
      const { account, address, pricingContext, buyerContext } = context
      if (`${cart.currency} ${cart.total.gross}` !== total)
        return no(
          'The total has changed: a price, a promotion or a tax changed it. Check it, then place the order.',
        )
      const terms = paymentTermsOf(pricingContext)
      if (content.payment === 'terms' && terms === '')
        return no('Paying on account has not been agreed with them. Choose card.')
      const person = account?.people.find(({ email }) => email === content.person)
      const document = makeOrder(prepared, pricingContext, cart, {
        buyer: account?.name ?? address.name,
        email: content.person || account?.emails[0] || '',
        address: person ? { ...address, name: person.name } : address,
        payment: content.payment === 'terms' ? terms : 'card',
        reference: content.reference.trim(),
        placedBy: author,
        changeSet: steppe.lastChangeSet,
        slipNote: content.note.trim(),
      })
      const placed = await placeOrder(steppe, {
        owner: {
          account: buyerContext.buyer.kind === 'account' ? (account?.id ?? null) : null,
          visitor: `desk-${order.number}`,
        },
        ...{ document, at: now, seenLast: priced.lastOrder },
        claim: claimDeskOrder(order),
      })
      if (placed.ok)
        return { ok: true, to: `/orders/${placed.number}`, told: `Order ${placed.number} is placed.` }
      switch (placed.code) {
        case 'cart-gone':
          return no(GONE)
        case 'used-up':
          return no(
            `“${placed.promotion}” has just been used for the last time. Check the total, then place the order.`,
          )
        case 'short':
          return no(
            `Somebody was quicker: of ${nameOf(prepared, placed.variant)} only ${placed.available} are left.`,
          )
        case 'ordered-meanwhile':
          return no('They have ordered elsewhere a moment ago. Check the order, then place it.')
      }
    })
  },
)

/** Puts an order aside, or gives it up. */
export const setDeskAside = merchantAction(
  'desk:work',
  [THING, TEXT],
  async (seen: Seen, state: 'held' | 'discarded'): Promise<DeskActed> => {
    return withDesk(seen, async (steppe, _prepared, order) => {
      const wanted = state === 'discarded' ? 'discarded' : 'held'
      const isSaved = await saveDeskOrder(steppe, order, { state: wanted })
      if (!isSaved) return no(GONE)
      return { ok: true, to: '/desk', told: wanted === 'held' ? `D-${order.number} is held.` : '' }
    })
  },
)

/** Makes a quote of it, with its prices as what is offered; nothing is sent yet. */
export const makeDeskQuote = merchantAction('desk:work', [THING], async (seen: Seen): Promise<DeskActed> => {
  return withDesk(seen, async (steppe, prepared, order) => {
    const author = await currentAuthor()
    const now = currentInstant()
    // What may not be given by hand is what a quote is approved for.
    const content = {
      ...order.content,
      lines: order.content.lines.map((line) => ({ ...line, price: '', reason: '' })),
    }
    const priced = await priceDesk(steppe, prepared, content, { at: now.getTime(), author })
    if (!priced) return no('The buyer’s currency, or the channel, is gone.')
    if (priced.context.account === null) return no('A quote needs an account: choose who it is for.')
    if (priced.lines.length === 0 || priced.lines.some(({ ok }) => !ok))
      return no('Every line needs an item and a quantity first.')
    const request = toRequest(prepared, priced, author, order)
    const { timeZone, quoteDays } = getSettings(prepared.store)
    const working: WorkingOffer = {
      lines: order.content.lines.map(({ sku, extras, quantity, price }, asked) => ({
        ...{ sku, extras, quantity, price, asked, insteadOf: null, note: '' },
      })),
      until: localDay(now.getTime() + quoteDays * DAY, timeZone),
      ...{ terms: request.terms, delivery: '', message: '' },
    }
    const owner = { account: priced.context.account.id, visitor: null }
    const claim = claimDeskOrder(order, 'quoted')
    const number = await askQuote(steppe, request, { owner, at: now }, { working, claim })
    if (number === null) return no(GONE)
    return { ok: true, to: `/quotes/${number}`, told: `It is quote Q-${number}. Nothing is sent yet.` }
  })
})

async function withDesk(
  { number, version }: Seen,
  act: (steppe: Steppe, prepared: PreparedStore, order: DeskOrder) => Promise<DeskActed>,
): Promise<DeskActed> {
  const steppe = await getSteppe()
  const order = await findDeskOrder(steppe, number)
  if (!order || !steppe.prepared || order.version !== version) return no(GONE)
  try {
    return await act(steppe, steppe.prepared, order)
  } catch (error) {
    if (error instanceof DiskFullError) return no(refusalSentence({ code: 'disk-full' }))
    throw error
  }
}

function no(problem: string): DeskActed {
  return { ok: false, problem }
}

/** What keeps it from being placed; `null` where nothing does. */
function findHindrance({ lines, cart }: PricedDesk): string | null {
  if (lines.length === 0) return 'Nothing is in the order yet.'
  const wrong = lines.filter(({ ok }) => !ok).length
  if (wrong > 0) return `${wrong} ${wrong === 1 ? 'line needs' : 'lines need'} a look first.`
  const place = cart.problems.find(({ kind }) => kind === 'place')
  if (place?.kind === 'place') return PLACE_SENTENCES[place.part]
  const { length } = cart.problems
  return length === 0
    ? null
    : `${length} ${length === 1 ? 'thing is' : 'things are'} in the way: see beside the lines.`
}

function nameOf({ store }: PreparedStore, variant: string): string {
  const found = store.variant.get(variant)
  const product = store.product.get(found?.product ?? '')
  return found && product ? itemName(product, found) : 'one item'
}

function toRequest(
  prepared: PreparedStore,
  { context, cart }: PricedDesk,
  author: string,
  { content }: DeskOrder,
): QuoteRequest {
  const { store } = prepared
  const { account, address, basis, pricingContext, buyerContext } = context
  const person = account?.people.find(({ email }) => email === content.person)
  return {
    version: 1,
    ...{
      currency: cart.currency,
      digits: findMinorDigits(cart.currency) ?? 2,
      priceDigits: pricingContext.digits,
    },
    ...{ basis, channel: buyerContext.channel, buyer: account?.name ?? address.name },
    ...{ asker: person?.name ?? account?.name ?? '', askedBy: author },
    email: content.person || account?.emails[0] || '',
    address,
    lines: cart.lines
      .filter(({ gift }) => gift === null)
      .map((line): AskedLine => ({
        ...{
          variant: line.variant,
          sku: store.variant.get(line.variant)?.sku ?? '',
          quantity: line.quantity,
        },
        name: nameOf(prepared, line.variant),
        extras: line.extras.map((id) => ({ id, name: store.extra.get(id)?.name ?? id })),
        ...{ their: line.access.seePrice ? (line.unitAmount?.[basis] ?? null) : null, wish: null },
      })),
    ...{ neededBy: '', message: content.note.trim(), terms: paymentTermsOf(pricingContext) },
  }
}
