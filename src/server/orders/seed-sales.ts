import 'server-only'

import { priceCart } from '@/core/cart/price-cart'
import { paymentTermsOf } from '@/core/cart/payment-terms'
import { findByCode, findBySku } from '@/core/catalogue/find-by-code'
import { decimal } from '@/core/decimal/decimal'
import { buyerContext } from '@/core/engine/context/buyer-context'
import { openPricingContextExactly } from '@/core/engine/price/open-pricing-context'
import { makeOrder } from '@/core/order/make-order'
import type { OrderStep } from '@/core/order/order-event'
import { standingOf } from '@/core/order/standing'
import { NO_FACTS } from '@/core/promotions/facts'
import { DEMO_AUTHOR } from '@/demo/demo-history'
import { DEMO_ORDERS, type DemoOrder } from '@/demo/orders'
import { DEMO_QUOTES } from '@/demo/quotes'
import { seedQuote } from '../quotes/seed-quotes'
import { preparedAsOf } from '../changes/history'
import type { Steppe } from '../engine/steppe'
import { writeCart } from '../shop/cart-store'
import { findOrder, lastOrderOf } from './order-rows'
import { placeOrder } from './place-order'
import { takeStep } from './take-step'

const DAY = 86_400_000

/** Fills the demo with what its buyers asked for and ordered, at the prices of the day, and what was done with it. */
export async function seedSales(steppe: Steppe): Promise<void> {
  const orders = DEMO_ORDERS.map((order, at) => ({
    at: Date.parse(order.at),
    seed: () => seedOrder(steppe, order, `demo-order-${at}`),
  }))
  const quotes = DEMO_QUOTES.map((quote) => ({
    at: Date.parse(quote.at),
    seed: () => seedQuote(steppe, quote),
  }))
  // In the order it happened, so that numbers rise with the days.
  for (const { seed } of [...orders, ...quotes].sort((one, other) => one.at - other.at)) await seed()
}

async function seedOrder(steppe: Steppe, wanted: DemoOrder, visitor: string): Promise<void> {
  const placedAt = new Date(wanted.at)
  const prepared = await preparedAsOf(steppe, placedAt)
  const { store } = prepared
  const account = findByCode(store.account, wanted.account)
  if (!account) throw new RangeError(`the demo's orders speak of ${wanted.account}, who is no account`)
  const lines = wanted.lines.map(([sku, quantity]) => {
    const variant = findBySku(store.variant, sku)
    if (!variant) throw new RangeError(`the demo's orders speak of ${sku}, which is not in its catalogue`)
    return { variant: variant.id, quantity: decimal(quantity), extras: [] }
  })
  const from = buyerContext({ kind: 'account', account: account.id }, placedAt.getTime())
  const opened = openPricingContextExactly(prepared, from)
  const priced = priceCart(prepared, { ...from, lines, past: [], promotions: NO_FACTS })
  if (!opened.ok || !priced.ok || priced.value.problems.length > 0)
    throw new RangeError(
      `the demo's order of ${wanted.account} on ${wanted.at} cannot be placed: ${JSON.stringify(priced.ok ? priced.value.problems : priced.error)}`,
    )
  const { name, country, state, postcode, city, addresses, emails } = account
  const street = addresses[0]?.street ?? ''
  const terms = paymentTermsOf(opened.value)
  const document = makeOrder(prepared, opened.value, priced.value, {
    ...{ buyer: name, email: emails[0] ?? '', reference: '', placedBy: null, changeSet: null },
    address: { name, street, country, state, postcode, city },
    payment: terms === '' ? 'card' : terms,
  })
  await writeCart(steppe, visitor, lines)
  const seenLast = await lastOrderOf(steppe.database, account.id)
  const owner = { account: account.id, visitor }
  const placed = await placeOrder(steppe, { owner, document, at: placedAt, seenLast })
  if (!placed.ok) throw new RangeError(`the demo's order of ${wanted.account}: ${placed.code}`)
  for (const [day, step] of wanted.steps.entries()) {
    const by = { author: DEMO_AUTHOR, at: new Date(placedAt.getTime() + (day + 1) * DAY) }
    const taken = await takeStep(steppe, placed.number, day, await toStep(steppe, placed.number, step), by)
    if (!taken.ok) throw new RangeError(`the demo's order ${placed.number}: ${JSON.stringify(taken)}`)
  }
}

async function toStep(
  { database }: Steppe,
  number: number,
  step: DemoOrder['steps'][number],
): Promise<OrderStep> {
  const order = await findOrder(database, number)
  const open = order
    ? standingOf(order.document, order.events).lines.flatMap(({ open: quantity }, line) =>
        quantity === '0' ? [] : [{ line, quantity }],
      )
    : []
  switch (step) {
    case 'send':
      return { kind: 'send', parts: open, tracking: '' }
    case 'send-first':
      return { kind: 'send', parts: open.slice(0, 1), tracking: '' }
    case 'cancel':
      return { kind: 'cancel', reason: 'Not needed this season after all' }
    case 'return-one':
      return {
        ...{ kind: 'return', parts: [{ line: 0, quantity: decimal(1) }], restocks: true },
        reason: 'Ordered one too many',
      }
    default:
      return { kind: step }
  }
}
