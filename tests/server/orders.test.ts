import { NO_USE_LIMITS } from '@/core/promotions/promotion'
import { decimal } from '@/core/decimal/decimal'
import { type Steppe } from '@/server/engine/steppe'
import { commit } from '@/server/changes/commit'
import { DiskFullError } from '@/server/database/disk-room'
import { readCart, writeCart } from '@/server/shop/cart-store'
import type { OrderDocument } from '@/core/order/order'
import { findOrder, lastOrderOf, listOrders, type OrderOwner } from '@/server/orders/order-rows'
import { orderedValues, pastPurchases } from '@/server/orders/past-purchases'
import { placeOrder } from '@/server/orders/place-order'
import { takeStep } from '@/server/orders/take-step'
import type { OrderStep } from '@/core/order/order-event'
import { readStock } from '@/server/stock/stock-levels'
import { readUses } from '@/server/shop/promotion-uses'
import { orderDocument } from '../fixtures/order-document'
import { demoSteppe } from './demo-steppe'
import { liveTarget, liveView, revisionOf } from '@/server/views/view'

const demo = demoSteppe()
let steppe: Steppe
beforeAll(() => {
  steppe = demo.current
})

const LINE = { variant: 'variant-FR-BR-PF', quantity: decimal(2), extras: [] }
const DOCUMENT = orderDocument([LINE])

test('a cart is kept, and what no longer exists falls out of it', async () => {
  const prepared = liveView(steppe).prepared
  await writeCart(steppe, 'cart-a', [LINE, { ...LINE, variant: 'gone' }, { ...LINE, extras: ['gone'] }])
  expect(await readCart(steppe, prepared, 'cart-a')).toEqual([LINE, LINE])
  await writeCart(steppe, 'cart-a', [LINE])
  expect(await readCart(steppe, prepared, 'cart-a')).toEqual([LINE])
  expect(await readCart(steppe, prepared, null)).toEqual([])
})

/** Places an order as a buyer would who has just looked at their cart. */
async function place(
  owner: OrderOwner & { readonly visitor: string },
  document: OrderDocument,
  at: Date,
  on: Steppe = steppe,
) {
  const seenLast = await lastOrderOf(on.database, owner.account)
  return placeOrder(on, { owner, document, at, seenLast })
}

test('on a nearly full disk neither a cart nor an order is written, and both are once there is room', async () => {
  const at = new Date('2027-03-01T09:00:00Z')
  const owner = { account: null, visitor: 'cart-full' }
  const full = { ...steppe, freeBytes: () => 1_000_000 }
  await expect(writeCart(full, 'cart-full', [LINE])).rejects.toThrow(DiskFullError)
  await writeCart(steppe, 'cart-full', [LINE])
  await expect(place(owner, DOCUMENT, at, full)).rejects.toThrow(DiskFullError)
  expect(await readCart(steppe, liveView(steppe).prepared, 'cart-full')).toEqual([LINE])
  expect(await place(owner, DOCUMENT, at)).toEqual({ ok: true, number: 10_001 })
})

test('one cart is one order, however often it is sent, and numbers rise', async () => {
  await writeCart(steppe, 'cart-b', [LINE])
  const at = new Date('2027-03-01T10:00:00Z')
  const owner = { account: 'account-fennmoor', visitor: 'cart-b' }
  const sent = await Promise.all([1, 2, 3].map(() => place(owner, DOCUMENT, at)))
  expect(sent.filter(({ ok }) => ok)).toEqual([{ ok: true, number: 10_002 }])
  expect(sent.filter(({ ok }) => !ok)).toEqual([
    { ok: false, code: 'cart-gone' },
    { ok: false, code: 'cart-gone' },
  ])
  await writeCart(steppe, 'cart-b', [LINE])
  // The numbers that two of them had been given came back.
  expect(await place(owner, DOCUMENT, at)).toEqual({ ok: true, number: 10_003 })
  expect(await readCart(steppe, liveView(steppe).prepared, 'cart-b')).toEqual([])
})

test('who looked at a cart before their account ordered again is told to look again', async () => {
  const owner = { account: 'account-hollin', visitor: 'cart-late' }
  await writeCart(steppe, 'cart-late', [LINE])
  await writeCart(steppe, 'cart-colleague', [LINE])
  const at = new Date('2027-03-01T11:00:00Z')
  const seenLast = await lastOrderOf(steppe.database, owner.account)
  expect(await place({ ...owner, visitor: 'cart-colleague' }, DOCUMENT, at)).toMatchObject({ ok: true })
  expect(await placeOrder(steppe, { owner, document: DOCUMENT, at, seenLast })).toEqual({
    ok: false,
    code: 'ordered-meanwhile',
  })
  expect(await readCart(steppe, liveView(steppe).prepared, 'cart-late')).toEqual([LINE])
  expect(await place(owner, DOCUMENT, at)).toMatchObject({ ok: true })
})

test('orders are found again by their buyer alone, and count for limits over days', async () => {
  const numbers = async (owner: OrderOwner) =>
    (await listOrders(steppe.database, { owner }, null, 10)).map(({ number }) => number)
  expect(await numbers({ account: 'account-fennmoor', visitor: null })).toEqual([10_003, 10_002])
  expect(await numbers({ account: 'account-tarnside', visitor: 'cart-b' })).toEqual([])
  expect(await numbers({ account: null, visitor: 'cart-b' })).toEqual([])
  expect(await numbers({ account: null, visitor: null })).toEqual([])
  const mine = { account: 'account-fennmoor', visitor: null }
  expect((await findOrder(steppe.database, 10_002, mine))?.document).toEqual(DOCUMENT)
  for (const other of [
    { account: 'account-tarnside', visitor: 'cart-b' },
    { account: null, visitor: 'cart-b' },
    { account: null, visitor: null },
  ])
    expect(await findOrder(steppe.database, 10_002, other)).toBeNull()

  const { store } = liveView(steppe).prepared
  const over = (days: number | null) => ({
    limit: new Map([...store.limit].map(([id, rule]) => [id, { ...rule, days }])),
  })
  const at = Date.parse('2027-03-01T10:00:00Z')
  const purchase = { variant: 'variant-FR-BR-PF', quantity: '2', at }
  expect(await pastPurchases(steppe, over(30), 'account-fennmoor', at)).toEqual([purchase, purchase])
  expect(await pastPurchases(steppe, over(30), 'account-fennmoor', at + 31 * 86_400_000)).toEqual([])
  // Where no limit looks back, nothing is looked for.
  expect(await pastPurchases(steppe, over(null), 'account-fennmoor', at)).toEqual([])
  expect(await pastPurchases(steppe, over(30), null, at)).toEqual([])
  const value = { at, net: '10', currency: 'EUR' }
  expect(await orderedValues(steppe, 'account-fennmoor')).toEqual([value, value])
})

test('pages of orders follow one another, narrowed by state and buyer', async () => {
  const page = await listOrders(steppe.database, {}, null, 2)
  const next = await listOrders(steppe.database, {}, page.at(-1)?.number ?? null, 2)
  expect([...page, ...next].map(({ number }) => number)).toEqual([10_005, 10_004, 10_003, 10_002])
  expect(page[0]).toMatchObject({ buyer: 'Fennmoor', state: 'placed', currency: 'EUR', lines: 1, due: '12' })
  expect(await listOrders(steppe.database, { states: ['confirmed'] }, null, 9)).toEqual([])
  expect(await listOrders(steppe.database, { buyer: 'FENN' }, null, 9)).toHaveLength(5)
  expect(await listOrders(steppe.database, { buyer: 'moor' }, null, 9)).toEqual([])
  const theirs = { buyer: 'nobody', accounts: ['account-hollin'] }
  expect(await listOrders(steppe.database, theirs, null, 9)).toHaveLength(2)
})

describe('steps with an order', () => {
  const by = { author: 'Maeve', at: new Date('2027-03-02T09:00:00Z') }
  const sku = 'QU-NU-5'
  const line = { variant: `variant-${sku}`, quantity: decimal(6), extras: [] }
  const level = async () => (await readStock(steppe.database, [line.variant])).get(line.variant)
  let number = 0
  beforeAll(async () => {
    await writeCart(steppe, 'cart-steps', [line])
    const placed = await place({ account: null, visitor: 'cart-steps' }, orderDocument([line, LINE]), by.at)
    if (!placed.ok) throw new Error(placed.code)
    number = placed.number
  })
  const part = (quantity: number, at = 0) => ({ line: at, quantity: decimal(quantity) })
  const take = (seen: number, step: OrderStep) => takeStep(steppe, number, seen, step, by)
  const send = (...parts: ReturnType<typeof part>[]): OrderStep => ({ kind: 'send', parts, tracking: '' })

  test('what is promised is sent in parts, the rest cancelled, and some of it comes back', async () => {
    expect(await level()).toEqual({ onHand: '14', reserved: '6' })
    expect(await take(0, { kind: 'confirm' })).toMatchObject({ ok: true, standing: { state: 'confirmed' } })
    expect(await take(1, send(part(4)))).toMatchObject({
      ok: true,
      standing: { state: 'sent-in-part' },
      event: { document: 1, author: 'Maeve' },
    })
    expect(await level()).toEqual({ onHand: '10', reserved: '2' })
    expect(await take(2, send(part(3)))).toEqual({
      ok: false,
      code: 'refused',
      problem: { code: 'too-many', line: 0, quantity: '3', most: '2' },
    })
    expect(await take(2, { kind: 'cancel', reason: 'no more this year' })).toMatchObject({
      ok: true,
      standing: { state: 'sent', due: { gross: '8' } },
    })
    expect(await level()).toEqual({ onHand: '10', reserved: '0' })
    expect(await take(3, { kind: 'invoice' })).toMatchObject({ ok: true, event: { document: 1 } })
    const back: OrderStep = { kind: 'return', parts: [part(1)], reason: 'too many', restocks: true }
    expect(await take(4, back)).toMatchObject({
      ok: true,
      standing: { state: 'invoiced', due: { net: '5', tax: '1', gross: '6' } },
      event: { document: 1 },
    })
    expect(await level()).toEqual({ onHand: '11', reserved: '0' })
    expect(await take(5, { ...back, restocks: false })).toMatchObject({ ok: true, event: { document: 2 } })
    expect(await level()).toEqual({ onHand: '11', reserved: '0' })
    const [head] = await listOrders(steppe.database, { states: ['invoiced'] }, null, 9)
    expect(head).toMatchObject({ number, state: 'invoiced', due: '4' })
  })

  test('of two who act at once one is told to look again, and an order that is not there is nobody’s', async () => {
    const note: OrderStep = { kind: 'note', text: 'Called: wants it on Monday' }
    const both = await Promise.all([take(6, note), take(6, { ...note, text: 'Monday!' })])
    expect(both.map(({ ok }) => ok).sort()).toEqual([false, true])
    expect(both.find(({ ok }) => !ok)).toEqual({ ok: false, code: 'stale' })
    expect(await takeStep(steppe, 99_999, 0, note, by)).toEqual({ ok: false, code: 'unknown-order' })
    expect((await findOrder(steppe.database, number))?.events).toHaveLength(7)
  })

  test('fifty invoices at once are numbered without a gap', async () => {
    const placed = await Promise.all(
      Array.from({ length: 50 }, async (_, at) => {
        await writeCart(steppe, `cart-invoice-${at}`, [LINE])
        return place({ account: null, visitor: `cart-invoice-${at}` }, DOCUMENT, by.at)
      }),
    )
    const numbers = placed.flatMap((each) => (each.ok ? [each.number] : []))
    const invoiced = await Promise.all(
      numbers.map(async (each) => {
        await takeStep(steppe, each, 0, send(part(2)), by)
        return takeStep(steppe, each, 1, { kind: 'invoice' }, by)
      }),
    )
    const documents = invoiced.flatMap((each) => (each.ok ? [each.event.document] : []))
    expect(documents.sort((one, other) => Number(one) - Number(other))).toEqual(
      Array.from({ length: 50 }, (_, at) => at + 2),
    )
  })

  test('of an order that is cancelled whole, nothing is owed, and its promotions can be used again', async () => {
    const used = { id: 'promotion-open-day-voucher', name: 'Voucher', saving: decimal(1), uses: 1 }
    await writeCart(steppe, 'cart-cancelled', [LINE])
    const document = { ...DOCUMENT, promotions: [used] }
    const placed = await place({ account: 'account-keld', visitor: 'cart-cancelled' }, document, by.at)
    if (!placed.ok) throw new Error(placed.code)
    const uses = async () =>
      (await readUses(steppe.database, { account: 'account-keld', visitor: null }, by.at))[used.id]
    expect(await uses()).toMatchObject({ byBuyer: 1 })
    const cancelled = await takeStep(steppe, placed.number, 0, { kind: 'cancel', reason: 'twice' }, by)
    expect(cancelled).toMatchObject({
      standing: { state: 'cancelled', due: { net: '0', tax: '0', gross: '0' } },
    })
    expect((await uses())?.byBuyer ?? 0).toBe(0)
    expect(await orderedValues(steppe, 'account-keld')).toEqual([])
    const late = await takeStep(steppe, placed.number, 1, { kind: 'confirm' }, by)
    expect(late).toMatchObject({ code: 'refused', problem: { code: 'not-now', state: 'cancelled' } })
  })
})

describe('the uses of a promotion', () => {
  const id = 'promotion-open-day-voucher'
  const using = (uses: number): OrderDocument => ({
    ...DOCUMENT,
    lines: DOCUMENT.lines.map((line) => ({ ...line, variant: 'nothing-counted' })),
    promotions: [{ id, name: 'Open-day voucher', saving: decimal(1), uses }],
  })
  const limitedTo = async (uses: object) => {
    const promotion = liveView(steppe).prepared.store.promotion.get(id)!
    const after = { ...promotion, uses: { ...NO_USE_LIMITS, ...uses } }
    const seen = revisionOf(liveTarget(steppe), 'promotion', id)
    const note = { author: 'Test', note: 'uses', at: new Date('2027-03-01T08:00:00Z') }
    expect(await commit(liveTarget(steppe), [{ kind: 'promotion', id, seen, after }], note)).toMatchObject({
      ok: true,
    })
  }
  const order = async (visitor: string, account: string | null, at: string, uses = 1) => {
    await writeCart(steppe, visitor, [LINE])
    return place({ account, visitor }, using(uses), new Date(at))
  }

  test('fifty orders at once get the last ten, and the others are told', async () => {
    await limitedTo({ total: 10 })
    const placed = await Promise.all(
      Array.from({ length: 50 }, (_, at) => order(`race-${at}`, null, '2027-03-01T09:00:00Z')),
    )
    const numbers = placed.flatMap((each) => (each.ok ? [each.number] : []))
    expect(numbers).toHaveLength(10)
    expect(new Set(numbers).size).toBe(10)
    // Nobody who was told in vain took a number with them.
    expect(Math.max(...numbers) - Math.min(...numbers)).toBe(9)
    expect(placed.filter(({ ok }) => !ok)).toEqual(
      Array.from({ length: 40 }, () => ({ ok: false, code: 'used-up', promotion: 'Open-day voucher' })),
    )
    const used = await readUses(steppe.database, { account: null, visitor: 'race-0' }, new Date(0))
    expect(used[id]?.total).toBe(10)
  }, 60_000)

  test('by one buyer, and in one day', async () => {
    await limitedTo({ perBuyer: 2 })
    expect(await order('one', 'account-fennmoor', '2027-03-02T09:00:00Z', 2)).toMatchObject({ ok: true })
    expect(await order('two', 'account-fennmoor', '2027-03-02T10:00:00Z')).toMatchObject({ code: 'used-up' })
    await limitedTo({ perDay: 1 })
    expect(await order('three', null, '2027-03-03T09:00:00Z')).toMatchObject({ ok: true })
    expect(await order('four', null, '2027-03-03T22:00:00Z')).toMatchObject({ code: 'used-up' })
    expect(await order('five', null, '2027-03-04T09:00:00Z')).toMatchObject({ ok: true })
  })
})
