import { priceCart } from '@/core/cart/price-cart'
import { decimal } from '@/core/decimal/decimal'
import { buyerContext } from '@/core/engine/context/buyer-context'
import { problemViews } from '@/ui/cart/cart-problems'
import { goods, writtenPrepared } from '@tests/fixtures/written-store'

const AT = Date.parse('2027-03-01T12:00:00Z')

function problems(limit: object, skus: readonly string[] = ['A', 'B']) {
  const prepared = writtenPrepared({
    categories: [{ code: 'c', name: 'C' }],
    ...goods(['A', '10', 'c', { weight: '2' }], ['B', '5', 'c', { weight: '1' }]),
    limits: [{ code: 'r', name: 'Rule', counting: 'together', ...limit }],
  })
  const lines = skus.map((variant) => ({ variant, quantity: decimal(2), extras: [] }))
  const priced = priceCart(prepared, { ...buyerContext({ kind: 'guest' }, AT), lines, past: [] })
  if (!priced.ok) throw new Error(priced.error.code)
  return problemViews(prepared, priced.value)
}

const sentences = (limit: object) => problems(limit).map(({ text }) => text)

const branch = { scope: { include: [{ kind: 'category', category: 'c', descendants: true }] } }

test.each([
  [
    { minimumValue: '60' },
    'The whole order must come to at least €60.00 without tax. This comes to €30.00 without tax.',
  ],
  [{ maximumWeight: '5' }, 'The whole order may come to at most 5 kg. This comes to 6 kg.'],
  [{ minimum: '10', ...branch }, 'A and B must come to at least 10. This comes to 4.'],
  [{ multiple: '3', ...branch }, 'A and B must come to a multiple of 3. This comes to 4.'],
])('a limit of everything speaks of the order, one of some things names them: %j', (limit, expected) => {
  expect(sentences(limit)).toEqual([expected])
})

test('buyers read what the merchant wrote for a limit, never what it is called inside', () => {
  const message = 'We send at most 5 kg in one parcel.'
  expect(sentences({ maximumWeight: '5', message })).toEqual([`${message} This comes to 6 kg.`])
  expect(sentences({ counting: 'each', maximum: '1', message })).toEqual([
    `${message} You have 2.`,
    `${message} You have 2.`,
  ])
  expect(sentences({ counting: 'each', maximum: '1' })[0]).toBe('Maximum quantity is 1. You have 2.')
})

test('a limit of the whole order stands beside the sums, also where one line is all there is', () => {
  expect(problems({ minimumValue: '60' }, ['A'])).toMatchObject([{ line: null, item: '' }])
  expect(problems({ minimum: '10', ...branch }, ['A'])).toMatchObject([{ line: 0, item: 'A' }])
})
