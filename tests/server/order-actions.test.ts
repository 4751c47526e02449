import type * as Actions from '@/features/orders/order-actions'
import type * as Lists from '@/features/orders/load-order-list'
import type * as Sheets from '@/features/orders/load-order'
import { orderListHref, parseOrderFilter } from '@/features/orders/order-filter'
import { decimal } from '@/core/decimal/decimal'
import { priceCart } from '@/core/cart/price-cart'
import { buyerContext } from '@/core/engine/context/buyer-context'
import { openPricingContextExactly } from '@/core/engine/price/open-pricing-context'
import { makeOrder } from '@/core/order/make-order'
import type { OrderStep } from '@/core/order/order-event'
import { standingOf } from '@/core/order/standing'
import { commit } from '@/server/changes/commit'
import { currentInstant } from '@/server/clock'
import { toRequestContext } from '@/server/engine/request-context'
import type { Steppe } from '@/server/engine/steppe'
import { placeOrder } from '@/server/orders/place-order'
import { lastOrderOf } from '@/server/orders/order-rows'
import { writeCart } from '@/server/shop/cart-store'
import { liveTarget, liveView, revisionOf } from '@/server/views/view'
import { DEFAULT_VANTAGE } from '@/ui/frame/vantage-url'
import { orderDocument } from '../fixtures/order-document'
import { demoSteppe } from './demo-steppe'
import { jestOf, standInForFramework } from './framework'

let side = 'merchant'
standInForFramework(jestOf(import.meta), () => ({ 'x-steppe-side': side }))

const demo = demoSteppe()
let steppe: Steppe
let actions: typeof Actions
let lists: typeof Lists
let sheets: typeof Sheets
beforeAll(async () => {
  steppe = demo.current
  const holder = globalThis as { [key: symbol]: unknown }
  holder[Symbol.for('steppe.running')] = Promise.resolve(steppe)
  actions = await import('@/features/orders/order-actions')
  lists = await import('@/features/orders/load-order-list')
  sheets = await import('@/features/orders/load-order')
})

const look = () => toRequestContext(liveView(steppe), DEFAULT_VANTAGE, currentInstant().getTime())
const LINES = [
  { variant: 'variant-FR-BR-PF', quantity: decimal(12), extras: [] },
  { variant: 'variant-TL-JT-ST', quantity: decimal(3), extras: [] },
]

/** Orders some lines for an account, at the prices of the demo. */
async function order(account: string, lines = LINES): Promise<number> {
  const { prepared } = liveView(steppe)
  const from = buyerContext({ kind: 'account', account }, currentInstant().getTime())
  const priced = priceCart(prepared, { ...from, lines, past: [] })
  const opened = openPricingContextExactly(prepared, from)
  if (!priced.ok || !opened.ok) throw new Error('no price')
  const { address, email } = orderDocument([])
  const document = makeOrder(prepared, opened.value, priced.value, {
    ...{ address, email, payment: 'card', reference: '', placedBy: null, changeSet: steppe.lastChangeSet },
    buyer: prepared.store.account.get(account)?.name ?? '',
  })
  const visitor = `cart of ${account}`
  await writeCart(steppe, visitor, lines)
  const seenLast = await lastOrderOf(steppe.database, account)
  const placed = await placeOrder(steppe, {
    ...{ document, seenLast, at: currentInstant() },
    owner: { account, visitor },
  })
  if (!placed.ok) throw new Error(placed.code)
  return placed.number
}

test('an address tells what a list is narrowed to, and nothing that is usual', () => {
  const shown = parseOrderFilter({ show: 'sent', buyer: 'Fenn', since: '2026-11-01', before: '10005' })
  expect(
    parseOrderFilter(Object.fromEntries(new URL(orderListHref(shown), 'http://x').searchParams)),
  ).toEqual(shown)
  const wrong = parseOrderFilter({ show: 'lost', since: 'yesterday', before: '-3' })
  expect(orderListHref(wrong)).toBe('/orders')
})

test('an order on its sheet is explained as of then, beside today’s prices', async () => {
  const number = await order('account-fennmoor')
  const before = await sheets.loadOrder(look(), number)
  expect(before?.lines.map(({ line, today, margin }) => [line.sku, line.unit.net, today, margin])).toEqual([
    ['FR-BR-PF', '21.65', '21.65', '39.5'],
    ['TL-JT-ST', '12.25', '12.25', expect.any(String)],
  ])
  expect(before?.lines[0]?.steps.map(({ parts }) => parts[0]?.text)).toEqual([
    'Base price',
    'Fennmoor agreed prices',
    'To the nearest 0.05',
  ])
  // The base price rises: what was ordered stays as it was, and says so.
  const { store } = liveView(steppe).prepared
  const product = store.product.get('product-FR-BR')!
  const raised = {
    ...{
      kind: 'product' as const,
      id: product.id,
      seen: revisionOf(liveTarget(steppe), 'product', product.id),
    },
    after: { ...product, basePrice: decimal('30') },
  }
  const note = { author: 'Orla', note: 'raised', at: currentInstant() }
  expect(await commit(liveTarget(steppe), [raised], note)).toMatchObject({ ok: true })
  const after = await sheets.loadOrder(look(), number)
  expect(after?.lines[0]?.line).toEqual(before?.lines[0]?.line)
  expect(after?.lines[0]?.today).toBe('25.05')
  expect(after?.lines[0]?.steps[0]?.amount).toBe('25.9')
  expect(await sheets.loadOrder(look(), 99_999)).toBeNull()
})

test('a list is narrowed by state, by a part of a buyer’s name, and by days', async () => {
  const other = await order('account-tarnside')
  const rows = async (fields: Record<string, string>) =>
    (await lists.loadOrderList(look(), parseOrderFilter(fields))).rows.map(({ buyer }) => buyer)
  expect(await rows({})).toEqual(['Tarnside Apiaries', 'Fennmoor Honey Farm'])
  expect(await rows({ buyer: 'honey farm' })).toEqual(['Fennmoor Honey Farm'])
  expect(await rows({ show: 'sent' })).toEqual([])
  const today = '2026-11-25'
  expect(await rows({ since: today, until: today })).toHaveLength(2)
  expect(await rows({ until: '2026-11-24' })).toEqual([])
  const typed = await lists.loadOrderList(look(), parseOrderFilter({ buyer: String(other) }))
  expect(typed).toMatchObject({ exact: other, open: 2, older: null })
})

test('the palette finds an order by its number, and nothing by another', async () => {
  const { findOrders } = await import('@/features/palette/find-records')
  const number = await order('account-fennmoor')
  expect(await findOrders(steppe.database, ` ${number} `)).toEqual([
    { kind: 'Order', title: `Order ${number}`, about: 'Fennmoor Honey Farm', to: `/orders/${number}` },
  ])
  for (const text of ['99999', '12', 'order', '']) expect(await findOrders(steppe.database, text)).toEqual([])
})

test('a card fails where it is to, and works else', async () => {
  const { askForCard } = await import('@/server/payments/card-stand-in')
  expect(askForCard('4444 3333 2222 0002')).toEqual({ ok: false, code: 'declined' })
  expect(askForCard('444433332222 0004')).toEqual({ ok: false, code: 'no-answer' })
  expect(askForCard('0002 3333 2222 1111')).toEqual({ ok: true })
})

describe('steps', () => {
  let number = 0
  beforeAll(async () => {
    number = await order('account-fennmoor')
  })
  const take = (seen: number, step: unknown) => actions.takeOrderStep(number, seen, step as OrderStep)

  test('what is submitted is checked, and what cannot be done is explained', async () => {
    for (const wrong of [{ kind: 'delete' }, { kind: 'send', parts: [{ line: 0 }] }])
      expect(await take(0, wrong)).toMatch(/cannot be done/)
    // What no page sends is not even looked at.
    for (const wrong of [null, 'confirm']) await expect(take(0, wrong)).rejects.toThrow('404')
    expect(await take(0, { kind: 'invoice' })).toBe('This cannot be done with an order that is placed.')
    const parts = [{ line: 1, quantity: '2.5' }]
    expect(await take(0, { kind: 'send', parts, tracking: '' })).toMatch(
      /^TL-JT-ST: 2\.5 is not a whole number/,
    )
    expect(await take(5, { kind: 'confirm' })).toMatch(/^Somebody did something/)
    expect(await actions.takeOrderStep(99_999, 0, { kind: 'confirm' })).toBe('There is no order 99999.')
    await expect(actions.takeOrderStep(Number.NaN, 0, { kind: 'confirm' })).rejects.toThrow('404')
    expect((await sheets.loadOrder(look(), number))?.events).toEqual([])
  })

  test('each is on the order afterwards, with who took it', async () => {
    expect(await take(0, { kind: 'confirm' })).toBeNull()
    expect(await take(1, { kind: 'note', text: 'wants it on Monday' })).toBeNull()
    const view = await sheets.loadOrder(look(), number)
    expect(view?.events.map(({ step, author }) => [step.kind, author])).toEqual([
      ['confirm', 'Merchant'],
      ['note', 'Merchant'],
    ])
    expect(view && standingOf(view.document, view.events).state).toBe('confirmed')
  })

  test('what it held is written down again at the desk, at today’s prices', async () => {
    const again = await actions.writeDownAgain(number)
    if (!('to' in again)) throw new Error(again.problem)
    const { findDeskOrder } = await import('@/server/desk/desk-rows')
    const desk = await findDeskOrder(steppe, Number(again.to.split('=')[1]))
    expect(desk?.content).toMatchObject({
      account: 'fennmoor',
      lines: [
        { sku: 'FR-BR-PF', quantity: '12', price: '' },
        { sku: 'TL-JT-ST', quantity: '3', price: '' },
      ],
    })
    expect(await actions.writeDownAgain(99_999)).toEqual({ problem: 'There is no such order.' })
  })

  test('none is to be had from a page of the shop', async () => {
    side = 'shop'
    await expect(take(2, { kind: 'cancel', reason: 'free goods' })).rejects.toThrow('404')
    side = 'merchant'
    expect((await sheets.loadOrder(look(), number))?.events).toHaveLength(2)
  })
})

test('the demo’s own orders can be placed at the prices of their days, and every step of them taken', async () => {
  const { seedSales } = await import('@/server/orders/seed-sales')
  const { listOrders } = await import('@/server/orders/order-rows')
  const before = await listOrders(steppe.database, {}, null, 100)
  await seedSales(steppe)
  const after = await listOrders(steppe.database, {}, null, 100)
  const all = after.slice(0, after.length - before.length)
  expect(new Set(all.map(({ state }) => state))).toEqual(
    new Set(['placed', 'confirmed', 'sent-in-part', 'sent', 'invoiced', 'closed', 'cancelled']),
  )
  // The first is of before the autumn round: at what frames cost then.
  const first = await sheets.loadOrder(look(), all.at(-1)?.number ?? 0)
  expect(first?.lines[0]?.steps[0]?.amount).toBe('24.9')
})
