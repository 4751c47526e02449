import { buyerContext } from '@/core/engine/context/buyer-context'
import { quantityUnits } from '@/core/engine/lists/compiled-line'
import { findPrice } from '@/core/engine/price/find-price'
import { openPricingContext } from '@/core/engine/price/open-pricing-context'
import { prepare, refresh } from '@/core/engine/prepare'
import type { PreparedStore } from '@/core/engine/context/prepared-store'
import { columnMemory } from '@/core/engine/column/column-memory'
import { computeColumn, priceColumn } from '@/core/engine/column/price-column'
import { decimal } from '@/core/decimal/decimal'
import { applyChanges, type Change } from '@/core/store/store'
import { demoStore } from '@tests/fixtures/demo-store'
import { EVERY_BUYER, INSTANTS, randomStore } from '@tests/fixtures/random-store'
import fc from 'fast-check'

const DEMO = demoStore()

function pricingContextAt(prepared: PreparedStore, buyer: (typeof EVERY_BUYER)[number], at: number) {
  const opened = openPricingContext(prepared, buyerContext(buyer, at))
  if (!opened.ok) throw new Error(opened.error.code)
  return opened.value
}

test('kept columns answer like fresh ones, whatever was asked before them', () => {
  fc.assert(
    fc.property(
      randomStore,
      fc.array(
        fc.record({
          buyer: fc.constantFrom(...EVERY_BUYER),
          at: fc.constantFrom(...INSTANTS),
          quantity: fc.constantFrom('1', '3', '10', '12.5').map((text) => quantityUnits(decimal(text))),
        }),
        { minLength: 4, maxLength: 16 },
      ),
      (store, asked) => {
        const prepared = prepare(store)
        for (const { buyer, at, quantity } of asked) {
          const kept = priceColumn(prepared, pricingContextAt(prepared, buyer, at), quantity)
          const fresh = prepare(store)
          const column = computeColumn(fresh, pricingContextAt(fresh, buyer, at), quantity)
          expect([...kept.prices]).toEqual([...column.prices])
          const listsOf = ({ sources, lists }: typeof kept) =>
            [...sources].map((source) => lists[source] ?? null)
          expect(listsOf(kept)).toEqual(listsOf(column))
        }
      },
    ),
    { numRuns: 60 },
  )
})

test('a day of scrubbing does not fill the memory, and what is asked again is still right', () => {
  const prepared = prepare(DEMO)
  const at = Date.parse('2026-11-25T10:00:00Z')
  const accounts = [...DEMO.account.keys()].map((account) => ({ kind: 'account', account }) as const)
  const buyers = [{ kind: 'guest' } as const, ...accounts]
  let most = 0
  for (let quantity = 1; quantity <= 60; quantity += 1) {
    for (const buyer of buyers.slice(0, 4)) {
      priceColumn(prepared, pricingContextAt(prepared, buyer, at), quantity * 1000)
      most = Math.max(most, columnMemory(prepared).columns.size)
    }
  }
  expect(most).toBeLessThanOrEqual(96)
  const again = pricingContextAt(prepared, buyers[1]!, at)
  expect([...priceColumn(prepared, again, 1000).prices]).toEqual([
    ...computeColumn(prepared, again, 1000).prices,
  ])
})

test('a column asked again is the same one, until the store changes', () => {
  const prepared = prepare(DEMO)
  const at = Date.parse('2026-11-25T10:00:00Z')
  const guest = { kind: 'guest' } as const
  const column = priceColumn(prepared, pricingContextAt(prepared, guest, at), 1000)
  expect(priceColumn(prepared, pricingContextAt(prepared, guest, at + 60_000), 1000)).toBe(column)
  const before = [...DEMO.product.values()].find(({ code }) => code === 'FR-BR')!
  const change = {
    kind: 'product',
    id: before.id,
    before,
    after: { ...before, basePrice: decimal('26.00') },
  } as Change
  const after = refresh(prepared, applyChanges(DEMO, [change]), [change])
  const flat = [...DEMO.variant.values()].find(({ sku }) => sku === 'FR-BR-PF')!
  const number = after.index.numberOf.get(flat.id) as number
  expect(column.prices[number]).toBe(2590)
  expect(priceColumn(after, pricingContextAt(after, guest, at), 1000).prices[number]).toBe(2600)
})

test('after an edit both stores answer, the one before as before, however often they are asked in turn', () => {
  fc.assert(
    fc.property(randomStore, fc.constantFrom(...INSTANTS), fc.nat(), (store, at, seed) => {
      const lines = [...store['price-line'].values()]
      const line = lines[seed % Math.max(1, lines.length)]
      if (!line) return
      const method = { kind: 'fixed', amount: decimal('7.77') } as const
      const edited = { ...line, breaks: [{ from: decimal(0), method }] }
      const changes: Change[] =
        seed % 3 === 0
          ? [{ kind: 'price-line', id: line.id, before: line, after: null }]
          : [{ kind: 'price-line', id: line.id, before: line, after: edited }]
      const before = prepare(store)
      const pricesOf = (prepared: PreparedStore) =>
        EVERY_BUYER.map((buyer) => [
          ...computeColumn(prepared, pricingContextAt(prepared, buyer, at), 1000).prices,
        ])
      const [was, is] = [pricesOf(before), pricesOf(prepare(applyChanges(store, changes)))]
      const after = refresh(before, applyChanges(store, changes), changes)
      for (let turn = 0; turn < 2; turn += 1) {
        expect(pricesOf(after)).toEqual(is)
        expect(pricesOf(before)).toEqual(was)
      }
      for (const buyer of EVERY_BUYER) {
        for (const prepared of [after, before, after]) {
          const pricingContext = pricingContextAt(prepared, buyer, at)
          const single = prepared.index.items.map(
            (_, number) => findPrice(prepared, pricingContext, number).units,
          )
          expect(single).toEqual([...computeColumn(prepared, pricingContext, 1000).prices])
        }
      }
    }),
    { numRuns: 80 },
  )
})
