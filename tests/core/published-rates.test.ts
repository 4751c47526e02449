import { type ExchangeRate, rateTable } from '@/core/currency/currency'
import { judgePublished, type PublishedDay, publishedRate } from '@/core/currency/published-rates'
import { decimal } from '@/core/decimal/decimal'
import { findInPublished } from '@/core/finding/published'
import { writtenPrepared } from '@tests/fixtures/written-store'
import fc from 'fast-check'

const day = (rates: Readonly<Record<string, string>>, of = '2026-11-25'): PublishedDay => ({
  ...{
    day: of,
    per: 'EUR',
    rates: new Map(Object.entries(rates).map(([code, rate]) => [code, decimal(rate)])),
  },
})
const AT = Date.parse('2026-11-25T18:00:00Z')
const inForce = (rate: string, source: 'manual' | 'feed', from = '2026-11-24T16:10:00Z'): ExchangeRate => ({
  ...{ id: 'r', currency: 'GBP', per: 'EUR', rate: decimal(rate), from, source },
})
const judge = (published: PublishedDay, rate: ExchangeRate | null, at = AT) =>
  judgePublished(published, {
    table: rateTable(rate ? [rate] : [], at),
    ...{ home: 'EUR', currencies: [{ code: 'GBP', status: 'active' }], at },
  })[0]

test.each([
  ['a little more', '0.8700', '0.8730', 'moves', '0.3'],
  ['five percent exactly', '0.8000', '0.8400', 'moves', '5'],
  ['five percent less', '0.8000', '0.7600', 'moves', '-5'],
  ['more than five', '0.8000', '0.8410', 'leaps', '5.1'],
  ['hardly more than five, which is shown as five', '0.8000', '0.8401', 'leaps', '5'],
  ['hardly more than five less', '0.8000', '0.7599', 'leaps', '-5'],
  ['more than five less', '0.8000', '0.7590', 'leaps', '-5.1'],
  ['the same', '0.8700', '0.8700', 'known', '0'],
])('%s', (_, before, after, verdict, change) => {
  expect(judge(day({ GBP: after }), inForce(before, 'feed'))).toMatchObject({
    verdict,
    change,
    follows: true,
  })
})

test('what was typed after it was published is not gone back on; what is old, missing or the first waits', () => {
  expect(judge(day({ GBP: '0.88' }, '2026-11-23'), inForce('0.87', 'feed'))?.verdict).toBe('known')
  expect(judge(day({ GBP: '0.88' }), inForce('0.87', 'feed'), AT + 7 * 86_400_000)?.verdict).toBe('old')
  expect(judge(day({ USD: '1.08' }), inForce('0.87', 'feed'))?.verdict).toBe('missing')
  expect(judge(day({ GBP: '0.88' }), null)).toMatchObject({ verdict: 'first', follows: false, change: null })
  expect(judge(day({ GBP: '0.88' }), inForce('0.87', 'manual'))?.follows).toBe(false)
})

test('a store whose own currency is another gets its rates through the euro, to six figures', () => {
  const rates = day({ USD: '1.0850', GBP: '0.8535', JPY: '162.50' })
  expect(publishedRate(rates, 'EUR', 'USD')).toBe('1.085')
  // 1.0850 / 0.8535 = 1.271236…, 162.50 / 0.8535 = 190.3925…, 1 / 0.8535 = 1.171646… (bc, 20 digits)
  expect(publishedRate(rates, 'GBP', 'USD')).toBe('1.27124')
  expect(publishedRate(rates, 'GBP', 'JPY')).toBe('190.393')
  expect(publishedRate(rates, 'GBP', 'EUR')).toBe('1.17165')
  // 0.8535 / 162.50 = 0.0052523…
  expect(publishedRate(rates, 'JPY', 'GBP')).toBe('0.00525231')
  expect(publishedRate(rates, 'GBP', 'NOK')).toBeNull()
})

test('through the euro a rate is off by less than a part in a hundred thousand', () => {
  const rate = fc.integer({ min: 1, max: 10_000_000 }).map((each) => String(each / 10_000))
  fc.assert(
    fc.property(rate, rate, (usd, gbp) => {
      const found = Number(publishedRate(day({ USD: usd, GBP: gbp }), 'GBP', 'USD'))
      const exact = Number(usd) / Number(gbp)
      expect(Math.abs(found - exact) / exact).toBeLessThanOrEqual(5.1e-6)
    }),
  )
})

describe('findings', () => {
  const store = (source: 'manual' | 'feed') =>
    writtenPrepared({
      currencies: [{ code: 'GBP' }],
      exchangeRates: [{ ...inForce('0.8700', source), id: 'r' }],
    })
  const found = (
    published: PublishedDay | null,
    source: 'manual' | 'feed' = 'feed',
    declined: string[] = [],
  ) =>
    findInPublished({ prepared: store(source), at: AT }, { published, declined: new Set(declined) }).map(
      ({ code }) => code,
    )

  test('a leap, a gap and lateness wait for a person, where the currency follows the service', () => {
    expect(found(day({ GBP: '0.95' }))).toEqual(['rate-leaps'])
    expect(found(day({ USD: '1.08' }))).toEqual(['rate-missing'])
    expect(found(day({ GBP: '0.88' }, '2026-11-12'))).toEqual(['rate-late'])
    expect(found(day({ GBP: '0.88' }))).toEqual([])
    expect(found(null)).toEqual([])
    expect(found(day({ GBP: '0.95' }), 'feed', ['GBP'])).toEqual([])
    expect(found(day({ GBP: '0.95' }), 'manual')).toEqual([])
  })
})
