import 'server-only'

import { findBySku } from '@/core/catalogue/find-by-code'
import {
  add,
  compare,
  type Decimal,
  decimal,
  HUNDRED,
  isPositive,
  multiply,
  parseDecimal,
  subtract,
} from '@/core/decimal/decimal'
import { divide, toFraction } from '@/core/decimal/fraction'
import { roundToDigits } from '@/core/decimal/rounding'
import { typedAmount } from '@/core/decimal/written-amount'
import { answer } from '@/core/engine/ask'
import { leviesOf, taxClassOf } from '@/core/engine/rules/find-tax'
import { pricingContextOf } from '@/server/engine/request-context'
import { priceCart } from '@/core/cart/price-cart'
import { getSettings } from '@/core/store/store'
import { wholePercent } from '@/core/tax/split-tax'
import type { RequestContext } from '@/server/engine/request-context'
import { askedByOthers, paidBefore } from '@/server/quotes/line-history'
import { contextOfQuote } from '@/server/quotes/price-working'
import { findQuote, type Quote } from '@/server/quotes/quote-rows'
import { referenceNet } from '@/core/order/make-order'
import { formatAmount } from '@/ui/format/amount'
import { formatDay, formatLocalDay } from '@/ui/format/instant'
import { recordHref } from '@/ui/frame/record-href'
import type { TraceStepView } from '@/ui/trace/trace-steps'
import { stepViews } from '@/ui/trace/trace-steps'
import { explainFound } from '@/core/engine/explain/explain-found'
import { findPrice } from '@/core/engine/price/find-price'
import { quantityUnits } from '@/core/engine/lists/compiled-line'
import type { LineAbout } from './offer-view'

const MOST_PAID = 6
const MOST_OTHERS = 3
/** So many others of the same groups are asked what they pay: more would take long, and say little. */
const MOST_COMPARED = 100

type Context = Pick<RequestContext, 'steppe' | 'prepared' | 'now'>

export interface LineAboutView extends LineAbout {
  readonly steps: readonly TraceStepView[]
}

/** What helps to find a price for one line of a quote. `null` where the quote or the item is not there. */
export async function loadLineAbout(
  context: Context,
  number: number,
  {
    sku,
    quantity: typed,
    until,
  }: { readonly sku: string; readonly quantity: string; readonly until: string },
): Promise<LineAboutView | null> {
  const { steppe, prepared, now } = context
  const quote = await findQuote(steppe.database, number)
  const variant = findBySku(prepared.store.variant, sku.trim())
  if (!quote || !variant) return null
  const amount = parseDecimal(typedAmount(typed))
  const quantity = amount && isPositive(amount) ? amount : decimal(1)
  const { request, account } = quote
  const { basis, currency, priceDigits } = request
  const { timeZone } = getSettings(prepared.store)
  const paid = await paidBefore(steppe.database, account, variant.id, MOST_PAID)
  const others = await askedByOthers(steppe.database, { quote: number, account }, variant.id, MOST_OTHERS)
  const own = unitFor(context, quote, variant.id, quantity, now)
  return {
    steps: stepsTo(context, quote, variant.id, quantity),
    paid: paid
      .filter((each) => each.currency === currency)
      .map((each) => ({
        ...{ order: each.order, quantity: each.quantity, unit: each[basis] },
        when: formatDay(each.at, timeZone),
      })),
    others: others.map((each) => ({
      ...{ quote: each.quote, buyer: each.buyer, when: formatDay(each.at, timeZone) },
      about:
        each.price === null
          ? `${each.quantity} asked for`
          : `${each.quantity} at ${formatAmount(each.price, priceDigits)}${each.currency === currency ? '' : ` ${each.currency}`}`,
    })),
    down: [
      ...floors(context, quote, variant.id),
      ...(await cheapestOther(context, quote, variant.id, quantity, own)),
    ],
    breaks: breaksAbove(context, quote, variant.id, quantity),
    mind: movesUntil(context, quote, variant.id, quantity, own, until),
  }
}

/** What one of so many costs a buyer, in the basis of the quote; `null` where there is no price. */
function unitFor(
  { prepared }: Context,
  quote: Quote,
  variant: string,
  quantity: Decimal,
  at: number,
  account = quote.account,
): Decimal | null {
  const priced = priceCart(prepared, {
    ...contextOfQuote({ ...quote, account }, at),
    lines: [{ variant, quantity, extras: [] }],
    past: [],
    promotions: null,
  })
  return priced.ok ? (priced.value.lines[0]?.unitAmount?.[quote.request.basis] ?? null) : null
}

function stepsTo(
  { prepared, now }: Context,
  quote: Quote,
  variant: string,
  quantity: Decimal,
): readonly TraceStepView[] {
  const { store, index } = prepared
  const pricingContext = pricingContextOf(prepared, contextOfQuote(quote, now))
  const item = index.numberOf.get(variant) as number
  const quantities = { own: quantityUnits(quantity), counted: null }
  const found = findPrice(prepared, pricingContext, item, quantities)
  const product = store.product.get(store.variant.get(variant)?.product ?? '')
  return stepViews(
    { store, buyerName: quote.request.buyer, currency: quote.request.currency },
    explainFound(prepared, pricingContext, item, quantities, found),
    {
      productHref: product ? recordHref('products', product.code) : '/products',
      mixesBases: prepared.mixesBases,
    },
  )
}

/** The price that just leaves the margin nobody has to approve, and the one that brings the cost back. */
function floors({ prepared, now }: Context, quote: Quote, variant: string): LineAbout['down'] {
  const { basis, priceDigits } = quote.request
  const pricingContext = pricingContextOf(prepared, contextOfQuote(quote, now))
  const item = prepared.index.numberOf.get(variant) as number
  const cost = referenceNet(prepared, pricingContext, [item], 'cost')
  if (cost === null) return []
  const percent = wholePercent(leviesOf(prepared, pricingContext, taxClassOf(prepared, item)).levies)
  const inBasis = basis === 'net' ? cost : multiply(multiply(cost, add(HUNDRED, percent)), decimal('0.01'))
  const { quoteMargin } = getSettings(prepared.store)
  const floor =
    quoteMargin &&
    roundToDigits(divide(multiply(inBasis, HUNDRED), subtract(HUNDRED, quoteMargin)), priceDigits, 'up')
  return [
    ...(floor ? [{ what: `${quoteMargin} % margin, less needs approval`, href: null, price: floor }] : []),
    { what: 'What it costs us', href: null, price: roundToDigits(toFraction(inBasis), priceDigits, 'up') },
  ]
}

/** Who of the same groups pays least for as many, where that is less. */
async function cheapestOther(
  context: Context,
  quote: Quote,
  variant: string,
  quantity: Decimal,
  own: Decimal | null,
): Promise<LineAbout['down']> {
  const { store } = context.prepared
  const buyer = quote.account === null ? undefined : store.account.get(quote.account)
  if (!buyer || own === null) return []
  const alike = [...store.account.values()]
    .filter(
      ({ id, groups, status }) =>
        id !== buyer.id && status === 'active' && groups.some((group) => buyer.groups.includes(group)),
    )
    .slice(0, MOST_COMPARED)
  let best: { readonly name: string; readonly code: string; readonly price: Decimal } | null = null
  for (const { id, name, code } of alike) {
    const price = unitFor(context, quote, variant, quantity, context.now, id)
    if (price !== null && compare(price, best?.price ?? own) < 0) best = { name, code, price }
  }
  return best
    ? [
        {
          what: `What ${quantity} cost ${best.name}`,
          href: recordHref('accounts', best.code),
          price: best.price,
        },
      ]
    : []
}

/** Breaks they do not reach, and what one costs from there on. */
function breaksAbove(
  { prepared, now }: Context,
  quote: Quote,
  variant: string,
  quantity: Decimal,
): LineAbout['breaks'] {
  const asked = answer(prepared, {
    ...contextOfQuote(quote, now),
    ...{ variant, quantity, extras: [], basket: [], promotions: null },
  })
  if (!asked.ok) return []
  return asked.value.breaks
    .filter(({ from, basis }) => compare(from, quantity) > 0 && basis === quote.request.basis)
    .map(({ from, unit }) => ({ from, unit }))
}

/** What their own price will be by the last day of the offer, where that is another one. */
function movesUntil(
  context: Context,
  quote: Quote,
  variant: string,
  quantity: Decimal,
  own: Decimal | null,
  until: string,
): readonly string[] {
  const end = Date.parse(`${until}T12:00:00Z`)
  if (Number.isNaN(end) || end <= context.now) return []
  const then = unitFor(context, quote, variant, quantity, end)
  if (then === own) return []
  const price = then === null ? 'none' : formatAmount(then, quote.request.priceDigits)
  return [`By ${formatLocalDay(until)} their own price is ${price}. The offer stays as it is sent.`]
}
