import { findNearMisses } from '@/core/cart/promote/near-misses'
import { savedAsShown } from '@/core/cart/promote/saved-as-shown'
import { priceCart } from '@/core/cart/price-cart'
import { decimal } from '@/core/decimal/decimal'
import { buyerContext } from '@/core/engine/context/buyer-context'
import { money, promotion } from '@tests/fixtures/promoted-cart'
import { goods, writtenPrepared } from '@tests/fixtures/written-store'

const AT = Date.parse('2027-03-01T12:00:00Z')
const anySet = (count: number, saving: object) => ({ kind: 'set', parts: [{ count, scope: null }], saving })
const free = { kind: 'cheapest-free', count: 1 }
const only = (variant: string) => ({ include: [{ kind: 'variant', variant }], exclude: [] })

function misses(promotions: readonly object[], lines: readonly (readonly [string, number])[]) {
  const prepared = writtenPrepared({
    categories: [{ code: 'c', name: 'C' }],
    ...goods(['A', '10', 'c'], ['B', '4', 'c']),
    promotions: promotions as Record<string, unknown>[],
  })
  const question = {
    ...buyerContext({ kind: 'guest' }, AT),
    lines: lines.map(([variant, quantity]) => ({ variant, quantity: decimal(quantity), extras: [] })),
    past: [],
  }
  const priced = priceCart(prepared, question)
  if (!priced.ok) throw new Error(priced.error.code)
  const savedIn = (cart: typeof priced.value, id: string) => savedAsShown(cart, id, 'gross')
  return findNearMisses(prepared, question, priced.value, { price: priceCart, savedIn }).map(
    ({ promotion: id, missing, saves }) => [id, missing, saves],
  )
}

test('units that are missing, and what they would save with the cheapest of the cart', () => {
  expect(
    misses(
      [promotion(anySet(3, free))],
      [
        ['A', 1],
        ['B', 1],
      ],
    ),
  ).toEqual([['offer', { kind: 'units', count: '1' }, '4']])
})

test('one more set, where some of it lies there already: what it saves more', () => {
  const lines = [
    ['A', 3],
    ['B', 1],
  ] as const
  expect(misses([promotion(anySet(3, free))], lines)).toEqual([['offer', { kind: 'units', count: '2' }, '4']])
  expect(misses([promotion(anySet(3, free))], [['A', 3]])).toEqual([])
  const once = { uses: { total: null, perBuyer: null, perOrder: 1, perDay: null } }
  expect(misses([promotion(anySet(3, free), once)], lines)).toEqual([])
})

test('a value or a weight is said as it is; what the shop does not announce is not', () => {
  const order = {
    kind: 'order',
    brackets: [{ from: money('20'), saving: { kind: 'percent', percent: '5' } }],
  }
  expect(misses([promotion(order)], [['A', 1]])).toEqual([['offer', { kind: 'value', amount: '10' }, null]])
  const heavy = { conditions: [{ kind: 'weight', from: '2', of: 'cart' }] }
  expect(misses([promotion(order, heavy)], [['A', 2]])).toEqual([
    ['offer', { kind: 'weight', kilograms: '2' }, null],
  ])
  expect(misses([promotion(order, { isAnnounced: false })], [['A', 1]])).toEqual([])
})

test('at most three, the one that saves most first; a code that is missing is no hint', () => {
  const of = (code: string, count: number, more: object = {}) =>
    promotion(anySet(count, free), { code, ...more })
  const found = misses(
    [
      of('two', 2, { scope: only('B') }),
      of('three', 3, { scope: only('A'), rank: 1 }),
      of('four', 4, { scope: only('A'), rank: 2 }),
      of('five', 5, { scope: only('A'), rank: 3 }),
      of('coded', 2, { conditions: [{ kind: 'code', code: 'X' }] }),
    ],
    [
      ['A', 2],
      ['B', 1],
    ],
  )
  expect(found.map(([id, , saves]) => [id, saves])).toEqual([
    ['three', '10'],
    ['two', '4'],
  ])
})
