import { money, type PricedAt, promotedCart, promotion } from '@tests/fixtures/promoted-cart'
import { type PlainPromotion, referencePromotions } from '@tests/reference/reference-promotions'
import fc from 'fast-check'

const percent = fc.constantFrom('5', '7.5', '10', '33')
const value: fc.Arbitrary<PlainPromotion['value']> = fc.oneof(
  fc.record({ kind: fc.constant('item-price' as const), percent, closes: fc.boolean() }),
  fc.record({ kind: fc.constant('by-quantity' as const), percent, from: fc.integer({ min: 1, max: 8 }) }),
  fc.record({ kind: fc.constant('set' as const), percent, count: fc.integer({ min: 2, max: 4 }) }),
  fc
    .record({ count: fc.integer({ min: 2, max: 5 }), free: fc.integer({ min: 1, max: 2 }) })
    .filter(({ count, free }) => free < count)
    .map((each) => ({ kind: 'cheapest-free' as const, ...each })),
  fc.record({ kind: fc.constant('order' as const), percent }),
)
const drawn = fc.array(
  fc.record({
    value,
    rank: fc.integer({ min: 1, max: 3 }),
    on: fc.uniqueArray(fc.integer({ min: 0, max: 5 }), { minLength: 1, maxLength: 5 }),
  }),
  { minLength: 1, maxLength: 7 },
)
const lines: fc.Arbitrary<PricedAt> = fc.array(
  fc.tuple(
    fc.integer({ min: 100, max: 9999 }).map((cents) => (cents / 100).toFixed(2)),
    fc.integer({ min: 1, max: 6 }),
  ),
  { minLength: 1, maxLength: 6 },
)

/** A plain promotion as it is set in a document. */
function written(each: PlainPromotion['value']): object {
  const saving = 'percent' in each ? { kind: 'percent', percent: each.percent } : null
  switch (each.kind) {
    case 'item-price':
      return { kind: 'item-price', saving, closes: each.closes }
    case 'by-quantity':
      return { kind: 'by-quantity', from: String(each.from), applies: 'all', saving }
    case 'set':
      return { kind: 'set', parts: [{ count: each.count, scope: null }], saving }
    case 'cheapest-free':
      return {
        kind: 'set',
        parts: [{ count: each.count, scope: null }],
        saving: { kind: 'cheapest-free', count: each.free },
      }
    case 'order':
      return { kind: 'order', brackets: [{ from: null, saving }] }
  }
}

test('many promotions on one cart save what looking at every unit by itself says', () => {
  fc.assert(
    fc.property(lines, drawn, (cart, some) => {
      const own = some
        .map(({ on, ...each }, at) => ({
          ...each,
          code: `p${at}`,
          on: on.filter((line) => line < cart.length),
        }))
        .filter(({ on }) => on.length > 0)
      const priced = promotedCart(
        cart,
        own.map(({ code, rank, on, value: each }) =>
          promotion(written(each), {
            code,
            rank,
            scope: {
              include: on.map((at) => ({ kind: 'variant', variant: `g${at}` })),
              exclude: [],
            },
          }),
        ),
      )
      const expected = referencePromotions(
        cart.map(([price, units], at) => ({ sku: `g${at}`, units, price })),
        own.map(({ on, ...each }) => ({ ...each, holds: (line) => on.includes(line) })),
      )
      const saved = new Map(
        priced.promotions.applied.map((each) => [each.promotion, Number(each.saving).toFixed(2)]),
      )
      expect(Object.fromEntries(saved)).toEqual(Object.fromEntries(expected))
    }),
    { numRuns: 300 },
  )
})

// Common practice, no source: a voucher is taken off what the promotions on goods have left.
test('a voucher on the order looks at the cart after everything else', () => {
  const cart = promotedCart(
    [['10.00', 3]],
    [
      promotion({
        kind: 'order',
        brackets: [{ from: money('20'), saving: { kind: 'percent', percent: '10' } }],
      }),
      promotion(
        {
          kind: 'set',
          parts: [{ count: 3, scope: null }],
          saving: { kind: 'cheapest-free', count: 1 },
        },
        { code: 'three', rank: 9 },
      ),
    ],
  )
  expect(cart.promotions.applied.map(({ promotion: id, saving }) => [id, saving])).toEqual([
    ['three', '10'],
    ['offer', '2'],
  ])
})
