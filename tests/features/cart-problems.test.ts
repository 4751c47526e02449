import { priceCart } from '@/core/cart/price-cart'
import { decimal } from '@/core/decimal/decimal'
import { standpoint } from '@/core/engine/standpoint'
import { problemViews } from '@/features/shop/cart-problems'
import { goods, writtenPrepared } from '@tests/fixtures/written-store'

const AT = Date.parse('2027-03-01T12:00:00Z')

function sentences(limit: object): readonly string[] {
  const prepared = writtenPrepared({
    categories: [{ code: 'c', name: 'C' }],
    ...goods(['A', '10', 'c', { weight: '2' }], ['B', '5', 'c', { weight: '1' }]),
    limits: [{ code: 'r', name: 'Rule', counting: 'together', ...limit }],
  })
  const lines = ['A', 'B'].map((variant) => ({ variant, quantity: decimal(2), extras: [] }))
  const priced = priceCart(prepared, { ...standpoint({ kind: 'guest' }, AT), lines, past: [] })
  if (!priced.ok) throw new Error(priced.error.code)
  return problemViews(prepared, priced.value).map(({ text }) => text)
}

const branch = { scope: { include: [{ kind: 'category', category: 'c', descendants: true }] } }

test.each([
  [
    { minimumValue: '60' },
    'Rule: the whole order €60.00 without tax or more; this comes to €30.00 without tax.',
  ],
  [{ maximumWeight: '5' }, 'Rule: the whole order 5 kg or less; this comes to 6 kg.'],
  [{ minimum: '10', ...branch }, 'Rule: A, B together 10 or more; this comes to 4.'],
  [{ multiple: '3', ...branch }, 'Rule: A, B together in multiples of 3; this comes to 4.'],
])('a limit of everything speaks of the order, one of some things names them: %j', (limit, expected) => {
  expect(sentences(limit)).toEqual([expected])
})
