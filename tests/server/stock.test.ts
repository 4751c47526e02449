import { availableOf } from '@/core/catalogue/stock'
import { decimal, multiply, type Decimal } from '@/core/decimal/decimal'
import { commit } from '@/server/changes/commit'
import { preparedAsOf, undo } from '@/server/changes/history'
import { productsFile } from '@/server/imports/products/products-file'
import { openImport, startReading, startWriting } from '@/server/imports/import-job'
import { type ImportJob } from '@/server/imports/import-state'
import { importDocument } from '@/server/exchange/import-document'
import { toDocument } from '@/server/exchange/store-document'
import { currentInstant } from '@/server/clock'
import type { Steppe } from '@/server/engine/steppe'
import { writeCart } from '@/server/shop/cart-store'
import { placeOrder } from '@/server/orders/place-order'
import { countStock, moveStock } from '@/server/stock/move-stock'
import { noticeStock } from '@/server/stock/notice-stock'
import { latestMovements, readStock } from '@/server/stock/stock-levels'
import { liveTarget, liveView, revisionOf } from '@/server/views/view'
import type * as Actions from '@/features/products/stock/stock-actions'
import { orderDocument } from '../fixtures/order-document'
import { demoSteppe } from './demo-steppe'
import { jestOf, standInForFramework } from './framework'

standInForFramework(jestOf(import.meta))

const demo = demoSteppe()
let steppe: Steppe
let actions: typeof Actions
beforeAll(async () => {
  steppe = demo.current
  const holder = globalThis as { [key: symbol]: unknown }
  holder[Symbol.for('steppe.running')] = Promise.resolve(steppe)
  actions = await import('@/features/products/stock/stock-actions')
})

/** An hour before what the merchant does at the pinned moment. */
const EARLIER = new Date(currentInstant().getTime() - 3_600_000)
const note = { at: EARLIER, author: 'Orla', note: 'test' }
const idOf = (sku: string) => `variant-${sku}`
const levelOf = async (sku: string) => (await readStock(steppe.database, [idOf(sku)])).get(idOf(sku)) ?? null
const available = async (sku: string) => {
  const level = await levelOf(sku)
  return level && availableOf(level)
}
const isOut = (sku: string) => liveView(steppe).prepared.store.outOfStock.has(idOf(sku))

let carts = 0
async function order(lines: readonly (readonly [sku: string, quantity: string])[], at = EARLIER) {
  const visitor = `cart-${(carts += 1)}`
  const wanted = lines.map(([sku, quantity]) => ({
    variant: idOf(sku),
    quantity: decimal(quantity),
    extras: [],
  }))
  await writeCart(steppe, visitor, wanted)
  const document = orderDocument(wanted)
  return placeOrder(steppe, { owner: { account: null, visitor }, document, at, seenLast: null })
}

test('the demo’s counts are there, and what has none is out of stock', async () => {
  expect(await levelOf('PK-BK-15')).toEqual({ onHand: '480', reserved: '0' })
  expect(await levelOf('FR-BR-PF')).toBeNull()
  expect(isOut('QU-NB-PO')).toBe(true)
  expect(isOut('QU-NB-PL')).toBe(false)
})

test('selling changes nothing of the configuration: no change set, no engine, no edit goes stale', async () => {
  const { prepared } = steppe
  const number = steppe.lastChangeSet
  const seen = revisionOf(liveTarget(steppe), 'variant', idOf('PK-BK-15'))
  expect(
    await order([
      ['PK-BK-15', '10'],
      ['PK-BK-15', '14'],
      ['FR-BR-PF', '3'],
    ]),
  ).toMatchObject({ ok: true })
  expect(await levelOf('PK-BK-15')).toEqual({ onHand: '480', reserved: '24' })
  // What nobody counts is promised all the same, for whoever begins to count.
  expect(await levelOf('FR-BR-PF')).toBeNull()
  expect(steppe.prepared).toBe(prepared)
  expect(steppe.lastChangeSet).toBe(number)
  const variant = liveView(steppe).prepared.store.variant.get(idOf('PK-BK-15'))!
  const edit = {
    kind: 'variant' as const,
    id: variant.id,
    seen,
    after: { ...variant, weight: decimal('0.8') },
  }
  const edited = await commit(liveTarget(steppe), [edit], { ...note, note: 'edited' })
  expect(edited).toMatchObject({ ok: true })
  const [movement] = await latestMovements(steppe.database, [idOf('PK-BK-15')], 1)
  expect(movement).toMatchObject({ kind: 'reserved', reserved: '24', before: '480', after: '480' })
})

test('fifty buyers want the last piece: one gets it, the others are told, and no number is lost', async () => {
  await countStock(steppe.database, [{ variant: idOf('QU-RK'), seen: null, counted: decimal(1) }], note)
  await noticeStock(steppe, [idOf('QU-RK')])
  const placed = await Promise.all(Array.from({ length: 50 }, () => order([['QU-RK', '1']])))
  const numbers = placed.flatMap((each) => (each.ok ? [each.number] : []))
  expect(numbers).toHaveLength(1)
  expect(placed.filter(({ ok }) => !ok)).toEqual(
    Array.from({ length: 49 }, () => ({ ok: false, code: 'short', variant: idOf('QU-RK'), available: '0' })),
  )
  expect(await levelOf('QU-RK')).toEqual({ onHand: '1', reserved: '1' })
  expect(isOut('QU-RK')).toBe(true)
  expect(await order([['FR-BR-PF', '1']])).toEqual({ ok: true, number: (numbers[0] as number) + 1 })
})

test('what may go on back order does, and one who wants more than there is of two things gets neither', async () => {
  expect(await order([['QU-MN-PI', '5']])).toMatchObject({ ok: true })
  expect(await available('QU-MN-PI')).toBe('-2')
  const before = await levelOf('QU-MN-PO')
  expect(
    await order([
      ['QU-MN-PO', '3'],
      ['QU-NB-PL', '23'],
    ]),
  ).toEqual({
    ok: false,
    code: 'short',
    variant: idOf('QU-NB-PL'),
    available: '22',
  })
  expect(await levelOf('QU-MN-PO')).toEqual(before)
})

test('a count moves stock by as much as it differs from what was seen: what was sent meanwhile stays sent', async () => {
  const sku = 'QU-NU-5'
  const placed = await order([[sku, '4']])
  if (!placed.ok) throw new Error(placed.code)
  const { onHand: seen } = (await levelOf(sku))!
  expect(seen).toBe('14')
  const sent = [{ variant: idOf(sku), quantity: decimal(3) }]
  await moveStock(steppe.database, 'sold', sent, { ...note, order: placed.number })
  expect(await levelOf(sku)).toEqual({ onHand: '11', reserved: '1' })
  // A pallet of ten more was counted on top of the fourteen that were seen.
  expect(await actions.countVariant(sku, seen, '24')).toBeNull()
  expect(await levelOf(sku)).toEqual({ onHand: '21', reserved: '1' })
  await moveStock(steppe.database, 'released', [{ variant: idOf(sku), quantity: decimal(1) }], {
    ...note,
    order: placed.number,
  })
  await moveStock(steppe.database, 'returned', [{ variant: idOf(sku), quantity: decimal(2) }], {
    ...note,
    order: placed.number,
  })
  expect(await levelOf(sku)).toEqual({ onHand: '23', reserved: '0' })

  expect(await actions.countVariant(sku, '23', '-2')).toMatch(/negative|below/i)
  expect(await actions.countVariant(sku, '23', 'a few')).toMatch(/a few/)
  expect(await actions.countVariant('QU-NU-99', null, '1')).toMatch(/no SKU/)
  expect(await actions.countVariant(sku, '23', '')).toBeNull()
  expect(await levelOf(sku)).toBeNull()
  expect(await actions.countVariant(sku, null, '0')).toBeNull()
  expect(isOut(sku)).toBe(true)
  expect(await actions.countVariant(sku, '0', '14')).toBeNull()
  expect(isOut(sku)).toBe(false)
})

test('the ledger adds up to what there is', async () => {
  for (const [variant, { onHand, reserved }] of await readStock(steppe.database)) {
    const lines = await latestMovements(steppe.database, [variant], 1_000)
    expect(decimal(lines[0]!.after!)).toBe(onHand)
    const promised = lines.reduce((total, line) => total + Number(line.reserved), 0)
    expect(promised).toBe(Number(reserved))
    // Each begins where the one before ended.
    lines.slice(0, -1).forEach((line, at) => expect(line.before).toBe(lines[at + 1]!.after))
  }
})

test('rules that ask for stock follow it, and a look at the past sees what was out of stock then', async () => {
  const before = liveView(steppe).prepared
  const then = new Date(currentInstant().getTime() - 1)
  expect(await actions.countVariant('QU-MN-PO', '40', '0')).toBeNull()
  expect(steppe.prepared).not.toBe(before)
  expect(isOut('QU-MN-PO')).toBe(true)
  const past = await preparedAsOf(steppe, then)
  expect(past.store.outOfStock.has(idOf('QU-MN-PO'))).toBe(false)
  expect(past.store.outOfStock.has(idOf('QU-RK'))).toBe(true)
})

/** Imports a file to its end. */
async function imported(text: string): Promise<ImportJob> {
  const file = { name: 'counts.csv', bytes: new TextEncoder().encode(text) }
  const opened = await openImport(steppe, { kind: 'products' }, file)
  if (!opened.ok) throw new Error(opened.problem.code)
  const { job } = opened
  const until = async (...steps: readonly string[]) => {
    while (!steps.includes(job.state.step)) await new Promise((resolve) => setTimeout(resolve, 5))
  }
  startReading(steppe, job, job.matching, job.mark)
  await until('preview', 'broken')
  startWriting(steppe, job, 'Orla')
  await until('done', 'broken', 'refused')
  return job
}

test('a file of counts alone is one change, taken back with what was sold meanwhile left sold', async () => {
  const { state } = await imported('SKU,Stock\nQU-NU-6,10\nQU-NB-PO,8\n')
  if (state.step !== 'done') throw new Error(JSON.stringify(state))
  expect(state.rows).toBe(2)
  expect(await levelOf('QU-NU-6')).toEqual({ onHand: '10', reserved: '0' })
  expect(isOut('QU-NB-PO')).toBe(false)
  const placed = await order([['QU-NU-6', '2']])
  if (!placed.ok) throw new Error(placed.code)
  await moveStock(steppe.database, 'sold', [{ variant: idOf('QU-NU-6'), quantity: decimal(2) }], {
    ...note,
    order: placed.number,
  })
  const back = await undo(liveView(steppe), state.changeSet, { ...note, note: 'Undo: counts' })
  expect(back).toMatchObject({ ok: true })
  expect(await levelOf('QU-NU-6')).toEqual({ onHand: '4', reserved: '0' })
  expect(isOut('QU-NB-PO')).toBe(true)
  // Taken back twice it would be moved twice.
  expect(await undo(liveView(steppe), state.changeSet, { ...note, note: 'twice' })).toEqual({
    ok: false,
    code: 'back-already',
    label: 'the stock',
  })
  expect(await levelOf('QU-NU-6')).toEqual({ onHand: '4', reserved: '0' })
  // And taken back in turn.
  if (!back.ok) return
  expect(await undo(liveView(steppe), back.changeSet, { ...note, note: 'again' })).toMatchObject({ ok: true })
  expect(await levelOf('QU-NU-6')).toEqual({ onHand: '8', reserved: '0' })
  // Then it counts again, and can be taken back again.
  expect(await undo(liveView(steppe), state.changeSet, { ...note, note: 'back' })).toMatchObject({ ok: true })
  expect(await levelOf('QU-NU-6')).toEqual({ onHand: '4', reserved: '0' })
})

test('files and documents hold what is on hand, and read back change nothing', async () => {
  const { store } = liveView(steppe).prepared
  const stock = await readStock(steppe.database)
  expect(productsFile(store, stock)).toMatch(/QU-NU-6/)
  const number = steppe.lastChangeSet
  const document = toDocument(store, stock)
  expect(await importDocument(steppe, document, note)).toEqual({ ok: true, changed: 0 })
  expect(steppe.lastChangeSet).toBe(number)
  // A document that says nothing of stock leaves it alone; one that does counts it.
  expect(await importDocument(steppe, toDocument(store), note)).toEqual({ ok: true, changed: 0 })
  expect(await readStock(steppe.database)).toEqual(stock)
  const doubled = new Map(
    [...stock].map(([id, level]) => [id, { ...level, onHand: multiply(level.onHand, '2' as Decimal) }]),
  )
  const moved = [...stock.values()].filter(({ onHand }) => onHand !== '0').length
  expect(await importDocument(steppe, toDocument(store, doubled), note)).toEqual({ ok: true, changed: moved })
  expect((await levelOf('PK-BK-15'))?.onHand).toBe('960')
  const wrong = { ...document, variants: [{ ...(document as { variants: object[] }).variants[0], stock: 3 }] }
  expect(await importDocument(steppe, wrong, note)).toMatchObject({
    ok: false,
    errors: [{ where: 'variants[0].stock', value: '3' }],
  })
})
