import { NO_USE_LIMITS } from '@/core/promotions/promotion'
import { decimal } from '@/core/decimal/decimal'
import { type Steppe } from '@/server/engine/steppe'
import { commit } from '@/server/changes/commit'
import { DiskFullError } from '@/server/database/disk-room'
import { readCart, writeCart } from '@/server/shop/cart-store'
import {
  type OrderDocument,
  lastOrderOf,
  type OrderOwner,
  ordersOf,
  pastPurchases,
  placeOrder,
} from '@/server/shop/order-store'
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
  const mine = await ordersOf(steppe, { account: 'account-fennmoor', visitor: null })
  expect(mine.map(({ document }) => document)).toEqual([DOCUMENT, DOCUMENT])
  expect(await ordersOf(steppe, { account: 'account-tarnside', visitor: 'cart-b' })).toEqual([])
  expect(await ordersOf(steppe, { account: null, visitor: 'cart-b' })).toEqual([])
  expect(await pastPurchases(steppe, { account: 'account-fennmoor', visitor: null })).toEqual([
    { variant: 'variant-FR-BR-PF', quantity: '2', at: Date.parse('2027-03-01T10:00:00Z') },
    { variant: 'variant-FR-BR-PF', quantity: '2', at: Date.parse('2027-03-01T10:00:00Z') },
  ])
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
