import { type Clash, findClashes } from '@/core/engine/promoted/find-clashes'
import { atOnce } from '@/core/steps/steps'
import { promotion } from '@tests/fixtures/promoted-cart'
import { goods, writtenPrepared } from '@tests/fixtures/written-store'

const NOW = Date.parse('2027-02-01T12:00:00Z')

const tenth = { kind: 'item-price', saving: { kind: 'percent', percent: '10' }, closes: false }
const pair = {
  kind: 'set',
  parts: [{ count: 2, scope: null }],
  saving: { kind: 'cheapest-free', count: 1 },
}
const variant = (...ids: readonly string[]) => ({
  include: ids.map((id) => ({ kind: 'variant', variant: id })),
  exclude: [],
})

function clashes(...promotions: readonly Record<string, unknown>[]): readonly string[] {
  const prepared = writtenPrepared({
    categories: [{ code: 'c', name: 'C' }],
    channels: [
      { code: 'web', name: 'Web' },
      { code: 'desk', name: 'Desk' },
    ],
    ...goods(['a', '10.00', 'c'], ['b', '20.00', 'c'], ['d', '5.00', 'c']),
    promotions,
  })
  return atOnce(findClashes(prepared, NOW)).map(
    ({ first, then, count, outcome }: Clash) => `${first.code} ${then.code} ${count} ${outcome}`,
  )
}

test('who comes first: prices of items, then the lower priority number, then whichever saves more', () => {
  expect(
    clashes(
      promotion(pair, { code: 'set', rank: 1 }),
      promotion(tenth, { code: 'price', rank: 9, scope: variant('a', 'b') }),
      promotion(pair, { code: 'other', rank: 1, scope: variant('b') }),
      promotion(pair, { code: 'later', rank: 2, scope: variant('a') }),
    ),
  ).toEqual([
    'price other 1 both',
    'price set 2 both',
    'price later 1 both',
    'other set 1 saves-more',
    'set later 1 first',
  ])
})

test('a price that closes keeps the others off, and one word for combining lets them in', () => {
  const closing = promotion({ ...tenth, closes: true }, { code: 'price' })
  expect(clashes(closing, promotion(pair, { code: 'set' }))).toEqual(['price set 3 first'])
  expect(
    clashes(
      promotion(pair, { code: 'one', combines: 'all' }),
      promotion(pair, { code: 'two', combines: 'all' }),
    ),
  ).toEqual(['one two 3 both'])
})

test('what never meets does not clash: other items, other times, other channels, switched off', () => {
  const set = (code: string, more: object) => promotion(pair, { code, ...more })
  const web = { include: [{ kind: 'channel', channel: 'web' }], exclude: [] }
  const desk = { include: [{ kind: 'channel', channel: 'desk' }], exclude: [] }
  expect(clashes(set('one', { scope: variant('a') }), set('two', { scope: variant('b') }))).toEqual([])
  expect(
    clashes(
      set('one', { schedule: { to: '2027-03-01T00:00' } }),
      set('two', { schedule: { from: '2027-03-01T00:00' } }),
    ),
  ).toEqual([])
  expect(
    clashes(set('one', { schedule: { weekdays: [1] } }), set('two', { schedule: { weekdays: [2] } })),
  ).toEqual([])
  expect(clashes(set('one', { place: web }), set('two', { place: desk }))).toEqual([])
  expect(clashes(set('one', {}), set('two', { state: 'off' }))).toEqual([])
  expect(clashes(set('one', {}), set('two', { schedule: { to: '2027-01-01T00:00' } }))).toEqual([])
  expect(clashes(set('one', { place: web }), set('two', { schedule: { weekdays: [2] } }))).toHaveLength(1)
})
