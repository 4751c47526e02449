import { type ExchangeRate, findConversion, rateTable } from '@/core/currency/currency'
import { decimal, ZERO } from '@/core/decimal/decimal'
import { toFraction } from '@/core/decimal/fraction'
import { roundToDigits } from '@/core/decimal/rounding'

const rate = (currency: string, value: string, from = '1999-01-01T00:00:00Z', per = 'EUR'): ExchangeRate => ({
  id: `${per} ${currency} ${from}`,
  currency,
  per,
  rate: decimal(value),
  from,
  source: 'manual',
})

/** An amount converted and rounded once, half up. */
function convert(
  rates: readonly ExchangeRate[],
  amount: string,
  from: string,
  to: string,
  digits: number,
  fee = '0',
) {
  const table = rateTable(rates, Date.parse('2025-07-01T00:00:00Z'))
  const conversion = findConversion(table, 'EUR', from, { code: to, fee: decimal(fee) })
  if (!conversion) return null
  const value = toFraction(decimal(amount))
  return roundToDigits(
    {
      numerator: value.numerator * conversion.factor.numerator,
      denominator: value.denominator * conversion.factor.denominator,
    },
    digits,
    'half-up',
  )
}

// Source: Council Regulations (EC) No 2866/98 and later (fixed conversion rates; numbers of the regulations from
// memory, rates read from GNU units 2.22); HRK from memory (checks.md F1–F14).
const FIXED = Object.entries({
  BEF: '40.3399',
  DEM: '1.95583',
  ESP: '166.386',
  FRF: '6.55957',
  IEP: '0.787564',
  ITL: '1936.27',
  NLG: '2.20371',
  ATS: '13.7603',
  HRK: '7.53450',
}).map(([currency, value]) => rate(currency, value))

// Source: Regulation (EC) No 1103/97 Art. 4 and 5, from memory: divide by the rate, never multiply by its inverse,
// round once, a tie up; own inputs (checks.md F20–F29, F50–F53).
test.each([
  ['DEM', '100', '51.13'],
  ['FRF', '100', '15.24'],
  ['ITL', '10000', '5.16'],
  ['BEF', '1000', '24.79'],
  ['ESP', '1000', '6.01'],
  ['NLG', '99.95', '45.36'],
  ['ATS', '7', '0.51'],
  ['IEP', '9.99', '12.68'],
  ['DEM', '19.90', '10.17'],
  ['HRK', '49.99', '6.63'],
  ['DEM', '30.11', '15.39'],
  ['FRF', '91.67', '13.98'],
  ['ITL', '10330', '5.33'],
  ['NLG', '27.91', '12.67'],
])('%s %s is %s euro', (currency, amount, euro) =>
  expect(convert(FIXED, amount, currency, 'EUR', 2)).toBe(decimal(euro)),
)

// Source: the same; F34–F36 are exactly half-way (checks.md F30–F37).
test.each([
  ['DEM', '1', 2, '1.96'],
  ['FRF', '100', 2, '655.96'],
  ['ITL', '10', 0, '19363'],
  ['ESP', '1', 0, '166'],
  ['DEM', '500', 2, '977.92'],
  ['DEM', '1500', 2, '2933.75'],
  ['FRF', '500', 2, '3279.79'],
  ['IEP', '19.99', 2, '15.74'],
])('into %s, %s euro is, with %d digits, %s', (currency, euro, digits, amount) =>
  expect(convert(FIXED, euro, 'EUR', currency, digits)).toBe(decimal(amount)),
)

// Source: the same, Art. 4(4): through the euro, here never rounded between (checks.md F40–F45, "unrounded EUR").
test.each([
  ['FRF', '100', 'DEM', '29.82'],
  ['DEM', '0.13', 'FRF', '0.44'],
  ['BEF', '310', 'NLG', '16.93'],
  ['ITL', '10000', 'DEM', '10.1'],
  ['NLG', '250', 'ATS', '1561.04'],
  ['ESP', '8', 'FRF', '0.32'],
])('%s %s is, in %s, %s', (from, amount, to, expected) =>
  expect(convert(FIXED, amount, from, to, 2)).toBe(expected),
)

// Source: ECB reference rates of 4 January 1999, from memory, and own rates; rounded once (checks.md F60–F64).
test.each([
  [{ USD: '1.1789', JPY: '133.73' }, '100', 'USD', 'JPY', 0, '11344'],
  [{ GBP: '0.7111', CHF: '1.6168' }, '19.99', 'GBP', 'CHF', 2, '45.45'],
  [{ USD: '1.0850', JPY: '162.50' }, '100', 'USD', 'JPY', 0, '14977'],
  [{ USD: '1.0850' }, '49.90', 'EUR', 'USD', 2, '54.14'],
  [{ USD: '1.0850', KWD: '0.33315' }, '5.00', 'USD', 'KWD', 3, '1.535'],
])('with %j, %s %s in %s', (rates, amount, from, to, digits, expected) =>
  expect(
    convert(
      Object.entries(rates).map(([currency, value]) => rate(currency, value)),
      amount,
      from,
      to,
      digits,
    ),
  ).toBe(expected),
)

test('a direct rate comes before the way through the store’s currency, in either direction', () => {
  const rates = [rate('GBP', '0.86'), rate('JPY', '162.5'), rate('JPY', '190', '2020-01-01T00:00:00Z', 'GBP')]
  expect(convert(rates, '10', 'GBP', 'JPY', 0)).toBe('1900')
  // Backwards it divides: through the euro it would be 1900 ÷ 162.5 × 0.86 = 10.06.
  expect(convert(rates, '1900', 'JPY', 'GBP', 2)).toBe('10')
})

test('a fee comes on top, and without a rate there is no amount', () => {
  expect(convert([rate('GBP', '0.86')], '100', 'EUR', 'GBP', 2, '1.5')).toBe('87.29')
  expect(convert([rate('GBP', '0.86')], '100', 'EUR', 'NOK', 2)).toBeNull()
})

test('rates have a history: each holds from its instant until the next', () => {
  const rates = [rate('GBP', '0.85', '2026-01-02T08:00:00Z'), rate('GBP', '0.87', '2026-02-02T08:00:00Z')]
  const on = (instant: string) => {
    const at = Date.parse(instant)
    const table = rateTable(rates, at)
    expect(table.since).toBeLessThanOrEqual(at)
    expect(table.until).toBeGreaterThan(at)
    return findConversion(table, 'EUR', 'EUR', { code: 'GBP', fee: ZERO })?.rates[0]?.rate ?? null
  }
  expect(on('2026-01-02T07:59:59Z')).toBeNull()
  expect(on('2026-01-02T08:00:00Z')).toBe('0.85')
  expect(on('2026-02-02T07:59:59.999Z')).toBe('0.85')
  expect(on('2026-02-02T08:00:00Z')).toBe('0.87')
})
