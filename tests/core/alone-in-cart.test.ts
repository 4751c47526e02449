import { brokenAlone, nearestAlone } from '@/core/cart/alone-in-cart'
import { priceCart } from '@/core/cart/price-cart'
import { decimal as d } from '@/core/decimal/decimal'
import type { PreparedStore } from '@/core/engine/context/prepared-store'
import { buyerContext } from '@/core/engine/context/buyer-context'
import { NO_LIMITS } from '@/core/limits/limit'
import { goods, writtenPrepared } from '@tests/fixtures/written-store'
import fc from 'fast-check'

const branch = (category: string) => ({ include: [{ kind: 'category', category, descendants: true }] })
const tried = (variant: string) => ({
  ...buyerContext({ kind: 'guest' }, Date.parse('2026-11-25T10:00:00Z')),
  variant,
  past: [],
})

const prepared = writtenPrepared({
  categories: ['queens', 'buckets', 'jars', 'odd'].map((code) => ({ code, name: code })),
  ...goods(
    ['QUEEN', '39', 'queens'],
    ['BUCKET', '2', 'buckets'],
    ['JAR', '1', 'jars', { limits: { ...NO_LIMITS, multiple: '4' } }],
    ['ODD', '1', 'odd', { limits: { ...NO_LIMITS, minimum: '5' } }],
  ),
  limits: [
    { code: 'month', name: 'A month', scope: branch('queens'), maximum: '3', days: 30 },
    { code: 'stack', name: 'Stack', scope: branch('buckets'), multiple: '12' },
    { code: 'tray', name: 'Tray', scope: branch('jars'), counting: 'together', multiple: '6' },
    { code: 'few', name: 'Few', scope: branch('odd'), counting: 'together', maximum: '4' },
    { code: 'order', name: 'Order', counting: 'together', minimumValue: '60' },
  ],
})

const nearest = (variant: string, quantity: string) => ({
  below: nearestAlone(prepared, tried(variant), d(quantity), 'below'),
  above: nearestAlone(prepared, tried(variant), d(quantity), 'above'),
})

test('a limit over several days holds for a first purchase too', () => {
  expect(brokenAlone(prepared, tried('QUEEN'), d('3'))).toEqual([])
  expect(brokenAlone(prepared, tried('QUEEN'), d('4'))).not.toEqual([])
  expect(nearest('QUEEN', '4')).toEqual({ below: '3', above: null })
})

test.each([
  ['one step', 'BUCKET', '7', null, '12'],
  ['two steps at once, of the product and of its branch', 'JAR', '5', null, '12'],
  ['two steps at once, from the other side', 'JAR', '23', '12', '24'],
  ['limits that contradict each other', 'ODD', '3', null, null],
])('the nearest right quantity with %s', (_why, variant, quantity, below, above) =>
  expect(nearest(variant, quantity)).toEqual({ below, above }),
)

test('a limit of the whole order does not refuse one item', () =>
  expect(brokenAlone(prepared, tried('BUCKET'), d('12'))).toEqual([]))

test('who or what does not exist is an error', () =>
  expect(() => brokenAlone(prepared, tried('NONE'), d('1'))).toThrow(RangeError))

const passes = (store: PreparedStore, variant: string, quantity: number) => {
  const { variant: sku, ...from } = tried(variant)
  const cart = priceCart(store, {
    ...from,
    lines: [{ variant: sku, quantity: d(quantity), extras: [] }],
  })
  return cart.ok && cart.value.problems.every((problem) => 'rule' in problem && problem.rule.code === 'order')
}

test('the nearest quantity passes in a cart, and none between it and the one asked for does', () => {
  const least = fc.option(fc.integer({ min: 1, max: 20 }), { nil: undefined })
  const field = (quantity: number | undefined) => (quantity === undefined ? undefined : String(quantity))
  fc.assert(
    fc.property(
      least,
      least,
      fc.constantFrom(2, 3, 4),
      fc.integer({ min: 1, max: 60 }),
      (most, steps, multiple, asked) => {
        const limits = [
          { code: 'each', name: 'Each', multiple: String(multiple) },
          ...(most === undefined
            ? []
            : [{ code: 'most', name: 'Most', counting: 'together', maximum: String(most + 20) }]),
          ...(steps === undefined
            ? []
            : [{ code: 'steps', name: 'Steps', counting: 'together', multiple: field(steps) }]),
        ].map((limit) => ({ ...limit, scope: branch('jars') }))
        const random = writtenPrepared({
          categories: [{ code: 'jars', name: 'Jars' }],
          ...goods(['JAR', '1', 'jars']),
          limits,
        })
        const right = Array.from({ length: 200 }, (_, at) => at + 1).filter((each) =>
          passes(random, 'JAR', each),
        )
        const found = (side: 'below' | 'above') => nearestAlone(random, tried('JAR'), d(asked), side)
        expect(found('below')).toBe(field(right.filter((each) => each <= asked).at(-1)) ?? null)
        expect(found('above')).toBe(field(right.find((each) => each >= asked)) ?? null)
      },
    ),
    { numRuns: 60 },
  )
})
