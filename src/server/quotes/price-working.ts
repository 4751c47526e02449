import 'server-only'

import { priceCart } from '@/core/cart/price-cart'
import { findByCode, findBySku } from '@/core/catalogue/find-by-code'
import { isPositive, parseDecimal } from '@/core/decimal/decimal'
import { typedAmount } from '@/core/decimal/written-amount'
import type { BuyerContext } from '@/core/engine/context/buyer-context'
import type { PreparedStore } from '@/core/engine/context/prepared-store'
import { openPricingContextExactly } from '@/core/engine/price/open-pricing-context'
import { makeOrder, type OrderHead } from '@/core/order/make-order'
import type { OrderDocument } from '@/core/order/order'
import { type OfferDraftLine, type PricedOffer, priceOffer } from '@/core/quote/price-offer'
import type { Offer } from '@/core/quote/quote'
import type { PlacePart } from '@/core/tax/find-levies'
import type { Quote } from './quote-rows'
import type { WorkingLine, WorkingOffer } from './quote-shape'

/** From whose eyes, where and in what a quote is priced at a moment. */
export function contextOfQuote(
  { account, request }: Pick<Quote, 'account' | 'request'>,
  at: number,
): BuyerContext {
  const { country, state, postcode, city } = request.address
  return {
    buyer: account === null ? { kind: 'guest' } : { kind: 'account', account },
    channel: request.channel,
    deliverTo: { country, state, postcode, city },
    currency: request.currency,
    passcode: null,
    at,
  }
}

/** What an order of a quote says beside its figures. */
function headOf(
  { request: { buyer, email, address, askedBy }, number }: Pick<Quote, 'request' | 'number'>,
  terms: string,
  reference: string,
  changeSet: number,
): OrderHead {
  const payment = terms === '' ? 'card' : terms
  return { buyer, email, address, payment, reference, placedBy: askedBy, changeSet, quote: number }
}

/** What is wrong with a line that is being written. */
type WorkingProblem = 'unknown-sku' | 'unknown-extra' | 'no-quantity' | 'not-whole'

export interface PricedWorking {
  /** By the position of the line as it is written. */
  readonly lines: readonly (
    PricedOffer['lines'][number] | { readonly ok: false; readonly error: WorkingProblem }
  )[]
  readonly document: OrderDocument | null
  readonly atTheirs: PricedOffer['atTheirs']
}

/** What an offer that is being written comes to. Errors  `null` where its buyer, channel or currency is gone. */
export function priceWorking(
  prepared: PreparedStore,
  quote: Pick<Quote, 'account' | 'request' | 'number'>,
  working: WorkingOffer,
  { at, changeSet }: { readonly at: number; readonly changeSet: number },
): PricedWorking | null {
  const read = working.lines.map((line) => readLine(prepared, line))
  const drafts = read.flatMap((line) => (typeof line === 'string' ? [] : [line]))
  const { request, number } = quote
  const priced = priceOffer(prepared, contextOfQuote(quote, at), drafts, {
    basis: request.basis,
    quote: number,
    head: headOf(quote, working.terms, '', changeSet),
  })
  if (!priced.ok) return null
  const { document, atTheirs } = priced.value
  const isWhole = drafts.length === read.length
  let next = 0
  return {
    lines: read.map((line) =>
      typeof line === 'string'
        ? { ok: false, error: line }
        : (priced.value.lines[next++] as PricedOffer['lines'][number]),
    ),
    document: isWhole ? document : null,
    atTheirs: isWhole ? atTheirs : null,
  }
}

function readLine({ store }: PreparedStore, line: WorkingLine): OfferDraftLine | WorkingProblem {
  const variant = findBySku(store.variant, line.sku.trim())
  if (!variant) return 'unknown-sku'
  const extras = line.extras.map((code) => findByCode(store.extra, code)?.id ?? null)
  if (extras.some((id) => id === null)) return 'unknown-extra'
  const quantity = parseDecimal(typedAmount(line.quantity))
  if (quantity === null || !isPositive(quantity)) return 'no-quantity'
  if (store.product.get(variant.product)?.unit === 'each' && quantity.includes('.')) return 'not-whole'
  const { price, asked, insteadOf, note } = line
  return {
    ...{ variant: variant.id, extras: extras as readonly string[], quantity },
    ...{ price: typedPrice(price), asked, insteadOf, note: note.trim() },
  }
}

/** A price as it is typed in any country; what is no amount stays as it is. */
function typedPrice(text: string): string {
  const typed = text.trim()
  const percent = typed.endsWith('%') ? '%' : ''
  return `${typedAmount(percent ? typed.slice(0, -1) : typed)}${percent}`
}

/** What taking lines of an offer comes to now: at its prices, with the taxes of the day. */
export type OfferOrder =
  | { readonly ok: true; readonly document: OrderDocument }
  /** An item, or the buyer, is gone; or a place needs a part that is not said. */
  | { readonly ok: false; readonly code: 'gone' }
  | { readonly ok: false; readonly code: 'place'; readonly part: PlacePart }

export function orderOfOffer(
  prepared: PreparedStore,
  quote: Pick<Quote, 'account' | 'request' | 'number'>,
  { lines, terms }: Offer,
  {
    chosen,
    reference,
    at,
    changeSet,
  }: {
    readonly chosen: readonly number[]
    readonly reference: string
    readonly at: number
    readonly changeSet: number
  },
): OfferOrder {
  const context = contextOfQuote(quote, at)
  const opened = openPricingContextExactly(prepared, context)
  const { request, number } = quote
  const wanted = chosen.flatMap((place) => {
    const line = lines[place]
    if (!line) return []
    const { variant, quantity, extras, price } = line
    const settled = { amount: price, basis: request.basis, by: { kind: 'quote', quote: number } } as const
    return [{ variant, quantity, extras: extras.map(({ id }) => id), settled }]
  })
  const priced = priceCart(prepared, { ...context, lines: wanted, past: [], promotions: null })
  if (!opened.ok || !priced.ok || priced.value.lines.some(({ amount }) => amount === null))
    return { ok: false, code: 'gone' }
  const place = priced.value.problems.find(({ kind }) => kind === 'place')
  if (place?.kind === 'place') return { ok: false, code: 'place', part: place.part }
  return {
    ok: true,
    document: makeOrder(prepared, opened.value, priced.value, headOf(quote, terms, reference, changeSet)),
  }
}
