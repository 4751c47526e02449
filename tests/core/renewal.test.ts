import { add, compare, type Decimal, decimal, multiply, subtract } from '@/core/decimal/decimal'
import { divide } from '@/core/decimal/fraction'
import { roundToDigits } from '@/core/decimal/rounding'
import { movedYears, nextPeriod } from '@/core/predicates/next-period'
import type { PriceMethod } from '@/core/price/lines/price-method'
import { forAnyQuantity } from '@/core/price/lines/price-method'
import { raiseBreaks } from '@/core/price/lines/raise-breaks'
import fc from 'fast-check'

const BASE = { kind: 'base' } as const
const raised = (method: PriceMethod, percent: string) =>
  raiseBreaks(forAnyQuantity(method), decimal(percent), 2).breaks[0]!.method

test.each<readonly [reason: string, method: PriceMethod, percent: string, after: PriceMethod]>([
  [
    'a fixed price',
    { kind: 'fixed', amount: decimal('12.20') },
    '2',
    { kind: 'fixed', amount: decimal('12.44') },
  ],
  [
    'half a cent goes up',
    { kind: 'fixed', amount: decimal('0.25') },
    '2',
    { kind: 'fixed', amount: decimal('0.26') },
  ],
  [
    '15 % off is 0.85, 2 % more is 0.867',
    { kind: 'percent', percent: decimal('-15'), reference: BASE },
    '2',
    { kind: 'percent', percent: decimal('-13.3'), reference: BASE },
  ],
  ['a markup', { kind: 'markup', percent: decimal('40') }, '5', { kind: 'markup', percent: decimal('47') }],
  [
    'a margin of half, a quarter more',
    { kind: 'margin', percent: decimal('50') },
    '25',
    { kind: 'margin', percent: decimal('60') },
  ],
  [
    'an amount stays',
    { kind: 'amount', amount: decimal('-1'), reference: BASE },
    '2',
    { kind: 'amount', amount: decimal('-1'), reference: BASE },
  ],
])('%s', (_reason, method, percent, after) => {
  expect(raised(method, percent)).toEqual(after)
})

test('raising a percentage multiplies the price, up to a millionth of a percent', () => {
  const hundredths = fc.integer({ min: -9_000, max: 20_000 }).map((each) => decimal(each / 100))
  fc.assert(
    fc.property(hundredths, fc.integer({ min: -50, max: 50 }), (percent, rise) => {
      const method = raised({ kind: 'percent', percent, reference: BASE }, String(rise))
      if (method.kind !== 'percent') throw new Error('it stays a percentage')
      const price = (of: Decimal) => add(decimal(100), of)
      const wanted = multiply(
        price(percent),
        roundToDigits(divide(price(decimal(rise)), decimal(100)), 4, 'half-up'),
      )
      const off = subtract(price(method.percent), wanted)
      expect(
        compare(off.startsWith('-') ? (off.slice(1) as Decimal) : off, decimal('0.000001')),
      ).toBeLessThanOrEqual(0)
    }),
  )
})

test.each([
  ['a year', '2026-04-01T00:00', '2027-04-01T00:00', '2028-04-01T00:00'],
  ['three months', '2027-03-01T00:00', '2027-06-01T00:00', '2027-09-01T00:00'],
  ['four days', '2026-11-27T00:00', '2026-12-01T00:00', '2026-12-05T00:00'],
  ['no start is a year', null, '2027-04-01T00:00', '2028-04-01T00:00'],
])('the next period is as long: %s', (_reason, from, to, next) => {
  expect(nextPeriod(from, to)).toEqual({ from: to, to: next })
})

test.each([
  ['Fennmoor supply 2026/27', 'Fennmoor supply 2027/28'],
  ['Spring build-up 2027', 'Spring build-up 2028'],
  ['Supply 2099/00', 'Supply 2100/01'],
  ['Winter feed', null],
])('the years of “%s” move on', (name, moved) => {
  expect(movedYears(name, 1)).toBe(moved)
})
