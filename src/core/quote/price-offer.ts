import type { Cart, CartLineWanted } from '../cart/cart'
import { priceCart } from '../cart/price-cart'
import { type Decimal, sum, ZERO } from '../decimal/decimal'
import type { BuyerContext, QuestionError } from '../engine/context/buyer-context'
import type { PreparedStore } from '../engine/context/prepared-store'
import { openPricingContextExactly } from '../engine/price/open-pricing-context'
import { makeOrder, type OrderHead } from '../order/make-order'
import type { OrderDocument, OrderLine } from '../order/order'
import { readSettledPrice } from '../order/read-settled-price'
import type { PriceExpressionError } from '../price/price-expression'
import type { OfferLine } from './quote'

/** A line of an offer as it is being written. */
export interface OfferDraftLine {
  readonly variant: string
  readonly extras: readonly string[]
  readonly quantity: Decimal
  /** As it was typed: `21.45`, `-6%`, `-1`, `m35`; empty is their own price. */
  readonly price: string
  readonly asked: number | null
  readonly insteadOf: number | null
  readonly note: string
}

/** A line with what is offered, beside what they would pay without a quote. */
type PricedOfferLine =
  | { readonly ok: true; readonly line: OfferLine }
  | {
      readonly ok: false
      readonly error: PriceExpressionError | 'gone'
      readonly their: Decimal | null
      readonly cost: Decimal | null
    }

export interface PricedOffer {
  readonly lines: readonly PricedOfferLine[]
  /** What all that is no alternative comes to; `null` while a line is wrong or none is there. */
  readonly document: OrderDocument | null
  /** The same at the prices they would pay without a quote; `null` where one of them has none. */
  readonly atTheirs: Decimal | null
}

export type PricedOfferResult =
  { readonly ok: true; readonly value: PricedOffer } | { readonly ok: false; readonly error: QuestionError }

/**
 * What an offer comes to for a buyer at a moment. What is typed into a price is read against their own price, and rounded as that
 * price is; promotions change neither.
 *
 * Units   prices in the basis that is asked for; amounts of lines and totals as of a cart.
 * Errors  `QuestionError` for a buyer, channel or currency that is gone; what is wrong with a line stands in it.
 */
export function priceOffer(
  prepared: PreparedStore,
  buyerContext: BuyerContext,
  lines: readonly OfferDraftLine[],
  {
    basis,
    quote,
    head,
  }: { readonly basis: 'net' | 'gross'; readonly quote: number; readonly head: OrderHead },
): PricedOfferResult {
  const opened = openPricingContextExactly(prepared, buyerContext)
  if (!opened.ok) return opened
  const pricingContext = opened.value
  const isThere = ({ variant, extras }: OfferDraftLine) =>
    prepared.store.variant.has(variant) && extras.every((id) => prepared.store.extra.has(id))
  const ask = (wanted: readonly CartLineWanted[]) =>
    priceCart(prepared, { ...buyerContext, lines: wanted, past: [], promotions: null })
  const there = lines.filter(isThere)
  const asTheirs = ask(there.map(({ variant, extras, quantity }) => ({ variant, extras, quantity })))
  if (!asTheirs.ok) return asTheirs
  const theirs = makeOrderLines(prepared, pricingContext, asTheirs.value, head)
  const read = new Map(
    there.map((line, at) => [
      line,
      readSettledPrice(prepared, pricingContext, line, theirs[at] ?? null, basis),
    ]),
  )
  const settle = (line: OfferDraftLine, amount: Decimal): CartLineWanted => ({
    variant: line.variant,
    extras: line.extras,
    quantity: line.quantity,
    settled: { amount, basis, by: { kind: 'quote', quote } },
  })
  const readable = new Map(
    [...read].flatMap(([line, { outcome }]) => (outcome.ok ? [[line, settle(line, outcome.value)]] : [])),
  )
  const isCounted = ({ insteadOf }: OfferDraftLine) => insteadOf === null
  const counted = lines.filter(isCounted)
  const isWhole = counted.length > 0 && counted.every((line) => readable.has(line))
  const together = isWhole ? ask(counted.map((line) => readable.get(line) as CartLineWanted)) : null
  if (together?.ok === false) return together
  const document = together && makeOrder(prepared, pricingContext, together.value, head)
  // What is counted stands as in the whole, whose taxes may be rounded together; what it may be taken instead, by itself.
  const madeOf = (line: OfferDraftLine): OrderLine | null => {
    const wanted = readable.get(line)
    if (!wanted) return null
    if (document && isCounted(line)) return document.lines[counted.indexOf(line)] ?? null
    const alone = ask([wanted])
    return alone.ok ? (makeOrder(prepared, pricingContext, alone.value, head).lines[0] ?? null) : null
  }
  const own = asTheirs.value.lines.filter((_, at) => isCounted(there[at] as OfferDraftLine))
  return {
    ok: true,
    value: {
      lines: lines.map((line): PricedOfferLine => {
        const known = read.get(line)
        if (!known) return { ok: false, error: 'gone', their: null, cost: null }
        const { their, cost, outcome } = known
        if (!outcome.ok) return { ok: false, error: outcome.error, their, cost }
        const made = madeOf(line)
        if (!made) return { ok: false, error: 'gone', their, cost }
        const trace = theirs[there.indexOf(line)]?.trace ?? []
        return { ok: true, line: toOfferLine(line, made, { their, price: outcome.value, trace }) }
      }),
      document,
      atTheirs: own.every(({ amount }) => amount !== null)
        ? sum(own.map(({ amount }) => amount?.[basis] ?? ZERO))
        : null,
    },
  }
}

type Pricing = Parameters<typeof makeOrder>[1]

/** A line of an order for each line of a cart; `null` for one without a price. */
function makeOrderLines(
  prepared: PreparedStore,
  pricingContext: Pricing,
  cart: Cart,
  head: OrderHead,
): readonly (OrderLine | null)[] {
  const { lines } = makeOrder(prepared, pricingContext, cart, head)
  let next = 0
  return cart.lines.map(({ amount, unitAmount }) => (amount && unitAmount ? (lines[next++] ?? null) : null))
}

function toOfferLine(
  { variant, quantity, asked, insteadOf, note }: OfferDraftLine,
  { sku, name, extras, net, gross, cost }: OrderLine,
  known: Pick<OfferLine, 'their' | 'price' | 'trace'>,
): OfferLine {
  return { variant, sku, name, extras, quantity, asked, insteadOf, note, net, gross, cost, ...known }
}
