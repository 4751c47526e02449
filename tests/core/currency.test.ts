import { buyerContext } from '@/core/engine/context/buyer-context'
import { intoHome } from '@/core/engine/context/currency-view'
import { openPricingContext } from '@/core/engine/price/open-pricing-context'
import { findMinorDigits } from '@/core/currency/iso-4217'
import { decimal } from '@/core/decimal/decimal'
import { toFraction } from '@/core/decimal/fraction'
import { roundToDigits } from '@/core/decimal/rounding'
import { writtenPrepared } from '@tests/fixtures/written-store'

// Source: ISO 4217:2015 list one, publication 2024-06-25, read from the list itself (checks.md U1–U15).
test.each([
  ['JPY', 0],
  ['KRW', 0],
  ['ISK', 0],
  ['CLP', 0],
  ['EUR', 2],
  ['USD', 2],
  ['CHF', 2],
  ['KWD', 3],
  ['BHD', 3],
  ['TND', 3],
  ['HUF', 2],
  ['IDR', 2],
  ['IQD', 3],
  ['CLF', 4],
  ['XAU', null],
  ['XXX', null],
  ['eur', null],
])('%s has %p minor digits', (currency, digits) => expect(findMinorDigits(currency)).toBe(digits))

// Source: own inputs recomputed with exact rationals (checks.md U20–U28).
test.each([
  ['1234.5', 'JPY', '1235', '1234', '1234'],
  ['-1234.5', 'JPY', '-1235', '-1234', '-1234'],
  ['99.495', 'EUR', '99.5', '99.5', '99.49'],
  ['99.485', 'EUR', '99.49', '99.48', '99.48'],
  ['-0.005', 'USD', '-0.01', '0', '0'],
  ['1.0005', 'KWD', '1.001', '1', '1'],
  ['12.3455', 'KWD', '12.346', '12.346', '12.345'],
  ['1.00005', 'CLF', '1.0001', '1', '1'],
  ['1999.995', 'HUF', '2000', '2000', '1999.99'],
])('%s %s', (amount, currency, ...expected) => {
  const digits = findMinorDigits(currency) as number
  const rounded = (['half-up', 'half-even', 'down'] as const).map((mode) =>
    roundToDigits(toFraction(decimal(amount)), digits, mode),
  )
  expect(rounded).toEqual(expected)
})

describe('amounts of other currencies in the store’s', () => {
  const prepared = writtenPrepared({
    currencies: [{ code: 'USD' }, { code: 'GBP' }],
    exchangeRates: [{ id: 'u', currency: 'USD', rate: '1.2', from: '2020-01-01T00:00:00Z' }],
  })
  const opened = openPricingContext(
    prepared,
    buyerContext({ kind: 'guest' }, Date.parse('2027-01-01T00:00:00Z')),
  )
  if (!opened.ok) throw new Error(opened.error.code)
  const { currencyView } = opened.value

  // 100 ÷ 1.2 = 83.333…
  test.each([
    ['USD', '100', '83.33'],
    ['EUR', '100', '100'],
  ])('%s %s is %s', (currency, amount, home) => {
    expect(intoHome(prepared, currencyView, decimal(amount), currency)).toBe(home)
  })

  test('none where there is no rate', () => {
    expect(intoHome(prepared, currencyView, decimal('100'), 'GBP')).toBeNull()
  })
})
