import { decimal } from '@/core/decimal/decimal'
import { PAST_LOOKED_AT, type PastPrice, priorPrice } from '@/core/price/prior-price'
import fc from 'fast-check'

const day = (date: string) => Date.parse(`${date}T00:00:00Z`)
const steps = (...all: readonly (readonly [date: string, price: string | null])[]): readonly PastPrice[] =>
  all.map(([date, price]) => ({ since: day(date), price: price === null ? null : decimal(price) }))

// Source: Directive 98/6/EC, Article 6a, inserted by Directive (EU) 2019/2161 (from memory); the cases follow the
// Commission's guidance on Article 6a (2021/C 526/02), with figures of our own.
test.each([
  [
    'a price that stood still, 6a(1) and (2)',
    steps(['2026-01-01', '64.00'], ['2027-01-18', '54.40']),
    '2027-01-18',
    ['64', '2027-01-18'],
  ],
  [
    'a shorter offer within the 30 days before is the lowest, 6a(2)',
    steps(['2026-09-01', '64.00'], ['2026-12-12', '59.00'], ['2026-12-25', '64.00']),
    '2027-01-10',
    ['59', '2027-01-10'],
  ],
  [
    'an offer that ended before the 30 days does not count, 6a(2)',
    steps(['2026-09-01', '64.00'], ['2026-11-27', '57.60'], ['2026-12-01', '64.00']),
    '2027-01-18',
    ['64', '2027-01-18'],
  ],
  [
    'a reduction that grows without interruption keeps the price before its first step, 6a(5)',
    steps(
      ['2026-09-01', '100.00'],
      ['2027-01-04', '80.00'],
      ['2027-01-11', '70.00'],
      ['2027-01-18', '60.00'],
    ),
    '2027-01-18',
    ['100', '2027-01-04'],
  ],
  [
    'a reduction after a rise between is a new one',
    steps(
      ['2026-09-01', '100.00'],
      ['2027-01-04', '80.00'],
      ['2027-01-11', '100.00'],
      ['2027-01-18', '75.00'],
    ),
    '2027-01-18',
    ['80', '2027-01-18'],
  ],
  [
    'goods sold for less than 30 days are looked at as long as they were, 6a(4)',
    steps(['2027-01-08', '40.00'], ['2027-01-12', '38.00'], ['2027-01-15', '40.00']),
    '2027-01-18',
    ['38', '2027-01-18'],
  ],
  [
    'a reduction that stood for more than 30 days is the price by then: the next is a new one',
    steps(['2026-09-01', '100.00'], ['2026-11-01', '80.00'], ['2027-01-11', '70.00']),
    '2027-01-18',
    ['80', '2027-01-11'],
  ],
] as const)('the prior price of %s', (_, past, at, [price, countedFrom]) => {
  expect(priorPrice(past, day(at))).toMatchObject({ price, countedFrom: day(countedFrom) })
})

test('what was not sold before has no prior price', () => {
  expect(priorPrice(steps(['2027-01-18', '20.00']), day('2027-01-18'))).toBeNull()
  expect(priorPrice(steps(['2026-01-01', null], ['2027-01-18', '20.00']), day('2027-01-18'))).toBeNull()
})

test('what is older than the past looked at changes nothing, however many reductions followed one another', () => {
  const DAY = 86_400_000
  const at = day('2027-01-18')
  const step = fc.record({ days: fc.integer({ min: 1, max: 40 }), price: fc.integer({ min: 10, max: 20 }) })
  fc.assert(
    fc.property(fc.array(step, { minLength: 1, maxLength: 12 }), (back) => {
      let since = at
      const whole = back.map(({ days, price }) => ({ since: (since -= days * DAY), price: decimal(price) }))
      whole.reverse()
      const start = at - PAST_LOOKED_AT
      const first = Math.max(
        0,
        whole.findLastIndex((each) => each.since <= start),
      )
      const seen = whole.slice(first).map((each) => ({ ...each, since: Math.max(each.since, start) }))
      expect(priorPrice(seen, at)).toEqual(priorPrice(whole, at))
    }),
    { examples: [[[5, 20, 20, 20, 20, 20, 20, 20].map((days, place) => ({ days, price: 12 + place }))]] },
  )
})
