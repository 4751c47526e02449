import { NO_USE_LIMITS } from '@/core/promotions/promotion'
import { decimal, subtract } from '@/core/decimal/decimal'
import { type Steppe } from '@/server/engine/steppe'
import { commit } from '@/server/changes/commit'
import { latestChangeSets, latestChangesOf, undo } from '@/server/changes/history'
import { DiskFullError } from '@/server/database/disk-room'
import { readCart, writeCart } from '@/server/shop/cart-store'
import { type OrderDocument, ordersOf, pastPurchases, placeOrder } from '@/server/shop/order-store'
import { readUses } from '@/server/shop/promotion-uses'
import { demoSteppe } from './demo-steppe'
import { liveTarget, liveView, revisionOf } from '@/server/views/view'

const demo = demoSteppe()
let steppe: Steppe
beforeAll(() => {
  steppe = demo.current
})

const sums = { net: decimal(10), tax: decimal(2), gross: decimal(12) }
const DOCUMENT: OrderDocument = {
  currency: 'EUR',
  digits: 2,
  display: 'gross',
  buyer: 'Fennmoor',
  email: 'orders@fennmoor.example',
  address: { name: 'Fennmoor', street: '', postcode: '', city: 'Mullingar', state: '', country: 'IE' },
  payment: '45 days net',
  lines: [
    {
      variant: 'variant-FR-BR-PF',
      sku: 'FR-BR-PF',
      name: 'Brood frames',
      quantity: decimal(2),
      extras: [],
      unit: { net: decimal(5), gross: decimal(6) },
      perUnit: { amount: decimal('0.50'), per: 'piece' },
      before: { net: decimal(10), gross: decimal(12) },
      promotions: [],
      isGift: false,
      ...sums,
    },
  ],
  goods: sums,
  delivery: { net: decimal(0), tax: decimal(0), gross: decimal(0) },
  paymentCharge: { net: decimal(0), tax: decimal(0), gross: decimal(0) },
  promotions: [],
  taxes: [{ name: 'VAT', percent: decimal(20), on: decimal(10), amount: decimal(2) }],
  total: sums,
  untaxed: null,
}
const LINE = { variant: 'variant-FR-BR-PF', quantity: decimal(2), extras: [] }

test('a cart is kept, and what no longer exists falls out of it', async () => {
  const prepared = liveView(steppe).prepared
  await writeCart(steppe, 'cart-a', [LINE, { ...LINE, variant: 'gone' }, { ...LINE, extras: ['gone'] }])
  expect(await readCart(steppe, prepared, 'cart-a')).toEqual([LINE, LINE])
  await writeCart(steppe, 'cart-a', [LINE])
  expect(await readCart(steppe, prepared, 'cart-a')).toEqual([LINE])
  expect(await readCart(steppe, prepared, null)).toEqual([])
})

test('on a nearly full disk neither a cart nor an order is written, and both are once there is room', async () => {
  const at = new Date('2027-03-01T09:00:00Z')
  const owner = { account: null, visitor: 'cart-full' }
  const full = { ...steppe, freeBytes: () => 1_000_000 }
  await expect(writeCart(full, 'cart-full', [LINE])).rejects.toThrow(DiskFullError)
  await writeCart(steppe, 'cart-full', [LINE])
  const stock = liveView(steppe).prepared.store.variant.get(LINE.variant)?.stock
  await expect(placeOrder(full, owner, DOCUMENT, at)).rejects.toThrow(DiskFullError)
  expect(await readCart(steppe, liveView(steppe).prepared, 'cart-full')).toEqual([LINE])
  expect(liveView(steppe).prepared.store.variant.get(LINE.variant)?.stock).toBe(stock)
  expect(await placeOrder(steppe, owner, DOCUMENT, at)).not.toBeNull()
})

test('one cart is one order, however often it is sent, and numbers rise', async () => {
  await writeCart(steppe, 'cart-b', [LINE])
  const at = new Date('2027-03-01T10:00:00Z')
  const owner = { account: 'account-fennmoor', visitor: 'cart-b' }
  const sent = await Promise.all([1, 2, 3].map(() => placeOrder(steppe, owner, DOCUMENT, at)))
  expect(sent.filter((number) => number !== null)).toHaveLength(1)
  await writeCart(steppe, 'cart-b', [LINE])
  const next = await placeOrder(steppe, owner, DOCUMENT, at)
  expect(next).toBe(Number(sent.find((number) => number !== null)) + 1)
  expect(await readCart(steppe, liveView(steppe).prepared, 'cart-b')).toEqual([])
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

test('what is ordered comes out of the stock that is counted, below zero on back order', async () => {
  const { store } = liveView(steppe).prepared
  const counted = [...store.variant.values()].find(({ stock }) => stock !== null && stock !== '0')!
  const uncounted = [...store.variant.values()].find(({ stock }) => stock === null)!
  const stockOf = (id: string) => liveView(steppe).prepared.store.variant.get(id)?.stock
  const order = (visitor: string, quantity: string) => {
    const line = { ...DOCUMENT.lines[0]!, variant: counted.id, quantity: decimal(quantity) }
    const lines = [line, line, { ...line, variant: uncounted.id }]
    return placeOrder(steppe, { account: null, visitor }, { ...DOCUMENT, lines }, new Date())
  }
  for (const cart of ['cart-c', 'cart-d', 'cart-e']) await writeCart(steppe, cart, [LINE])
  // Two at the same moment: neither takes from what the other has not left yet.
  const placed = await Promise.all([order('cart-c', '1'), order('cart-d', '2'), order('cart-c', '1')])
  expect(placed.filter((number) => number === null)).toHaveLength(1)
  expect(stockOf(counted.id)).toBe(subtract(counted.stock!, decimal(6)))
  expect(stockOf(uncounted.id)).toBeNull()
  await order('cart-e', '100000')
  expect(stockOf(counted.id)).toBe(subtract(counted.stock!, decimal(200_006)))
  const [last] = await latestChangesOf(liveView(steppe), 'variant', counted.id, 1)
  expect(last).toMatchObject({ author: 'Shop', note: 'Order of Fennmoor' })
  // Moments to look back to are those the merchant made.
  expect((await latestChangeSets(steppe, 50)).map(({ note }) => note)).not.toContain('Order of Fennmoor')
})

test('selling stands in no merchant’s way: edits go on, are taken back, and what was sold stays sold', async () => {
  const variant = () => liveView(steppe).prepared.store.variant.get('variant-QU-MN-PO')!
  const seen = revisionOf(liveTarget(steppe), 'variant', variant().id)
  const edit = (change: object) =>
    commit(
      liveTarget(steppe),
      [{ kind: 'variant', id: variant().id, seen, after: { ...variant(), ...change } }],
      {
        author: 'Orla',
        note: 'edited',
        at: new Date(),
      },
    )
  const order = async (visitor: string, quantity: string) => {
    await writeCart(steppe, visitor, [LINE])
    const lines = [{ ...DOCUMENT.lines[0]!, variant: variant().id, quantity: decimal(quantity) }]
    return placeOrder(steppe, { account: null, visitor }, { ...DOCUMENT, lines }, new Date())
  }
  expect(variant().stock).toBe('40')
  await order('cart-f', '3')
  // On the revision the sheet was opened with, and while another order is under way.
  const [, edited] = await Promise.all([order('cart-g', '2'), edit({ weight: decimal('0.8') })])
  if (!edited.ok) throw new Error(edited.code)
  expect(variant()).toMatchObject({ stock: '35', weight: '0.8' })
  await order('cart-h', '1')
  const back = await undo(liveView(steppe), edited.changeSet, {
    author: 'Orla',
    note: 'back',
    at: new Date(),
  })
  expect(back.ok).toBe(true)
  expect(variant()).toMatchObject({ stock: '34', weight: null })

  // An order's own change is taken back by as much as it took.
  await order('cart-i', '4')
  await order('cart-j', '5')
  const [, sold] = await latestChangesOf(liveView(steppe), 'variant', variant().id, 2)
  expect(sold?.note).toBe('Order of Fennmoor')
  await undo(liveView(steppe), sold!.changeSet, { author: 'Orla', note: 'sent back', at: new Date() })
  expect(variant().stock).toBe('29')
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
    return placeOrder(steppe, { account, visitor }, using(uses), new Date(at))
  }

  test('fifty orders at once get the last ten, and the others are told', async () => {
    await limitedTo({ total: 10 })
    const placed = await Promise.all(
      Array.from({ length: 50 }, (_, at) => order(`race-${at}`, null, '2027-03-01T09:00:00Z')),
    )
    expect(placed.filter((number) => typeof number === 'number')).toHaveLength(10)
    expect(placed.filter((number) => typeof number !== 'number')).toEqual(
      Array.from({ length: 40 }, () => ({ usedUp: 'Open-day voucher' })),
    )
    const used = await readUses(steppe.database, { account: null, visitor: 'race-0' }, new Date(0))
    expect(used[id]?.total).toBe(10)
  }, 60_000)

  test('by one buyer, and in one day', async () => {
    await limitedTo({ perBuyer: 2 })
    expect(await order('one', 'account-fennmoor', '2027-03-02T09:00:00Z', 2)).toEqual(expect.any(Number))
    expect(await order('two', 'account-fennmoor', '2027-03-02T10:00:00Z')).toMatchObject({
      usedUp: expect.any(String),
    })
    await limitedTo({ perDay: 1 })
    expect(await order('three', null, '2027-03-03T09:00:00Z')).toEqual(expect.any(Number))
    expect(await order('four', null, '2027-03-03T22:00:00Z')).toMatchObject({ usedUp: expect.any(String) })
    expect(await order('five', null, '2027-03-04T09:00:00Z')).toEqual(expect.any(Number))
  })
})
