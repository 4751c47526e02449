import { add, type Decimal, decimal, ZERO } from '@/core/decimal/decimal'
import { compileTaxes, findLevies, type Levy } from '@/core/tax/find-levies'
import { parseTaxRate } from '@/core/tax/parse-tax'
import { codesCovered, type PostcodePattern, readPostcode } from '@/core/tax/postcode'
import { splitTax } from '@/core/tax/split-tax'
import type { Tax, TaxRate } from '@/core/tax/tax'
import { refusals, writtenStore } from '@tests/fixtures/written-store'
import fc from 'fast-check'

type Rate = readonly [percent: string, upon?: readonly number[]]

/** One levy after the other; `upon` names those before it that it is charged upon. */
function levies(...rates: readonly Rate[]): readonly Levy[] {
  return rates.map(([percent, upon = []], at) => {
    const tax: Tax = {
      id: `t${at}`,
      code: `t${at}`,
      name: `Tax ${at}`,
      upon: upon.map((below) => `t${below}`),
      onDelivery: true,
      position: at,
      status: 'active',
    }
    const rate: TaxRate = {
      id: `r${at}`,
      tax: tax.id,
      taxClass: null,
      country: '',
      state: '',
      postcode: '',
      city: '',
      percent: decimal(percent),
      from: null,
      to: null,
      reason: '',
    }
    return { tax, rate, percent: rate.percent }
  })
}

const parts = (amount: string, basis: 'net' | 'gross', ...rates: readonly Rate[]) => {
  const { net, taxes, gross } = splitTax(decimal(amount), basis, levies(...rates), 2)
  return { net, taxes: taxes.map((tax) => tax.amount), gross }
}
const d = decimal

describe('a price with its tax in it', () => {
  // Source: checks.md V20–V28, own inputs, exact rationals; the fractions of V1–V5 from HMRC's VAT fraction, from memory.
  test.each([
    ['120', '20', '20', '100'],
    ['100', '20', '16.67', '83.33'],
    ['9.99', '20', '1.67', '8.32'],
    ['0.03', '20', '0.01', '0.02'],
    ['19.99', '19', '3.19', '16.80'],
    ['4.99', '7', '0.33', '4.66'],
    ['1', '5', '0.05', '0.95'],
    ['-9.99', '20', '-1.67', '-8.32'],
    ['99.90', '8.1', '7.49', '92.41'],
    ['47', '17.5', '7', '40'],
    ['23', '15', '3', '20'],
    ['9', '12.5', '1', '8'],
    ['1081', '8.1', '81', '1000'],
    ['211', '5.5', '11', '200'],
  ])('%s at %s %% holds %s of tax and %s of net', (gross, rate, tax, net) =>
    expect(parts(gross, 'gross', [rate])).toEqual({ net: d(net), taxes: [d(tax)], gross: d(gross) }),
  )

  test('several levies share the whole tax by largest remainder', () =>
    // Common practice, no source: 121 with 10 % and a second 10 % upon it is 100.
    expect(parts('121', 'gross', ['10'], ['10', [0]])).toEqual({
      net: d(100),
      taxes: [d(10), d(11)],
      gross: d(121),
    }))
})

describe('tax upon a price', () => {
  // Source: checks.md V30–V34, own inputs, exact rationals.
  test.each([
    ['8.33', '20', '1.67', '10'],
    ['8.32', '20', '1.66', '9.98'],
    ['16.80', '19', '3.19', '19.99'],
    ['12.95', '8.875', '1.15', '14.10'],
    ['0.05', '10', '0.01', '0.06'],
  ])('%s at %s %% is %s and makes %s', (net, rate, tax, gross) =>
    expect(parts(net, 'net', [rate])).toEqual({ net: d(net), taxes: [d(tax)], gross: d(gross) }),
  )

  // Source: Revenu Québec, GST and QST before and after 2013, from memory (checks.md V80–V88).
  test.each([
    ['100', '5', '7.5', true, '5', '7.88', '112.88'],
    ['100', '5', '8.5', true, '5', '8.93', '113.93'],
    ['100', '5', '9.5', true, '5', '9.98', '114.98'],
    ['100', '5', '9.975', false, '5', '9.98', '114.98'],
    ['0.15', '5', '9.5', true, '0.01', '0.02', '0.18'],
    ['0.15', '5', '9.975', false, '0.01', '0.01', '0.17'],
    ['3.06', '5', '9.5', true, '0.15', '0.30', '3.51'],
    ['3.06', '5', '9.975', false, '0.15', '0.31', '3.52'],
    ['19.99', '5', '7', false, '1', '1.40', '22.39'],
  ])('%s with %s %% and %s %% (upon it: %s)', (net, first, second, isUpon, one, two, gross) =>
    expect(parts(net, 'net', [first], [second, isUpon ? [0] : []])).toEqual({
      net: d(net),
      taxes: [d(one), d(two)],
      gross: d(gross),
    }),
  )

  // Source: New York City and Chicago, from memory; each levy rounded by itself (checks.md V90–V94).
  test.each([
    ['100', ['4', '4.5', '0.375'], '8.88'],
    ['10.09', ['4', '4.5', '0.375'], '0.89'],
    ['10.13', ['4', '4.5', '0.375'], '0.91'],
    ['10', ['6.25', '1.75', '1.25', '1'], '1.04'],
    ['0.06', ['4', '4.5', '0.375'], '0'],
  ])('%s in a city of %j pays %s', (net, rates, tax) => {
    const { taxes } = parts(net, 'net', ...rates.map((rate) => [rate] as const))
    expect(taxes.reduce<Decimal>(add, ZERO)).toBe(d(tax))
  })

  // Common practice, no source.
  test('10 % and a second 10 % make 121 upon each other and 120 side by side', () => {
    expect(parts('100', 'net', ['10'], ['10', [0]]).gross).toBe('121')
    expect(parts('100', 'net', ['10'], ['10']).gross).toBe('120')
  })
})

test('net and taxes add up to the gross, from either side', () => {
  const rate = fc.integer({ min: 0, max: 30_000 }).map((value) => decimal((value / 1000).toFixed(3)))
  fc.assert(
    fc.property(
      fc.integer({ min: -999_999, max: 999_999 }).map((cents) => decimal((cents / 100).toFixed(2))),
      fc.constantFrom('net' as const, 'gross' as const),
      fc.array(fc.tuple(rate, fc.boolean()), { minLength: 1, maxLength: 3 }),
      (amount, basis, rates) => {
        const some = levies(
          ...rates.map(([percent, isUpon], at) => [percent, isUpon && at > 0 ? [0] : []] as const),
        )
        const { net, taxes, gross } = splitTax(amount, basis, some, 2)
        expect(taxes.reduce((sum, tax) => add(sum, tax.amount), net)).toBe(gross)
        expect(basis === 'net' ? net : gross).toBe(amount)
      },
    ),
  )
})

describe('which levies fall where', () => {
  const store = writtenStore({
    taxClasses: [
      { code: 'standard', name: 'Standard' },
      { code: 'reduced', name: 'Reduced' },
    ],
    taxes: [
      { code: 'vat', name: 'VAT' },
      { code: 'city', name: 'City tax', upon: ['vat'], onDelivery: false, position: 1 },
      { code: 'eco', name: 'Eco levy', position: 2 },
    ],
    taxRates: [
      { id: 'ie', tax: 'vat', taxClass: 'standard', country: 'IE', percent: '23' },
      { id: 'ie-reduced', tax: 'vat', taxClass: 'reduced', country: 'IE', percent: '13.5' },
      { id: 'us', tax: 'vat', country: 'US', percent: '4' },
      { id: 'us-ca', tax: 'vat', country: 'US', state: 'CA', percent: '7.25' },
      { id: 'us-ca-94', tax: 'vat', country: 'US', state: 'CA', postcode: '94*', percent: '8' },
      { id: 'us-ca-941', tax: 'vat', country: 'US', state: 'CA', postcode: '94100-94199', percent: '8.5' },
      { id: 'de-low', tax: 'vat', country: 'DE', percent: '16', from: '2020-07-01', to: '2021-01-01' },
      { id: 'dublin', tax: 'city', country: 'IE', city: 'Dublin', percent: '1' },
    ],
  })
  const compiled = compileTaxes(store.tax, store['tax-rate'].values(), 'Europe/Dublin')
  const at = Date.parse('2027-03-01T12:00:00Z')
  const find = (
    country: string,
    more: {
      state?: string
      postcode?: string
      city?: string
      taxClass?: string
      isDelivery?: boolean
      at?: number
    },
  ) =>
    findLevies(compiled, {
      place: { country, state: more.state ?? '', postcode: more.postcode ?? '', city: more.city ?? '' },
      taxClass: more.taxClass ?? 'standard',
      isDelivery: more.isDelivery ?? false,
      at: more.at ?? at,
    })
  const rates = (...asked: Parameters<typeof find>) => find(...asked).levies.map(({ rate }) => rate.id)

  test.each([
    ['the class decides', 'IE', { taxClass: 'reduced' }, ['ie-reduced']],
    ['a city adds its own', 'IE', { city: 'dublin' }, ['ie', 'dublin']],
    ['delivery is free of a tax that spares it', 'IE', { city: 'Dublin', isDelivery: true }, ['ie']],
    ['the country', 'US', { state: 'NY' }, ['us']],
    ['the state over the country', 'US', { state: 'CA' }, ['us-ca']],
    ['a beginning over the state', 'US', { state: 'CA', postcode: '94500' }, ['us-ca-94']],
    ['a range over a beginning', 'US', { state: 'CA', postcode: '94105-1234' }, ['us-ca-941']],
    ['a rate of a while, its last day', 'DE', { at: Date.parse('2020-12-31T22:00:00Z') }, ['de-low']],
    ['and the day after', 'DE', { at: Date.parse('2021-01-01T00:00:00Z') }, []],
  ])('%s', (_why, country, more, expected) => expect(rates(country, more)).toEqual(expected))

  test('why nothing falls is told for each tax', () => {
    const misses = find('IE', { taxClass: 'books', city: 'Cork' }).misses
    expect(misses.map(({ tax, code }) => `${tax.code} ${code}`)).toEqual([
      'vat other-class',
      'city other-place',
      'eco no-rates',
    ])
    expect(misses[1]).toMatchObject({ places: ['Dublin, IE'] })
    expect(find('DE', {}).misses[0]).toMatchObject({ code: 'not-now', from: '2020-07-01T00:00' })
  })
})

describe('what is refused', () => {
  const taxes = [{ code: 'vat', name: 'VAT' }]
  const rate = (fields: object) =>
    refusals({ taxes, taxRates: [{ id: 'r', tax: 'vat', country: 'IE', percent: '20', ...fields }] })

  test.each([
    [{ percent: '120' }, ['taxRates[0].percent: unusual-rate']],
    [{ percent: '120', reason: 'luxury levy' }, []],
    [{ percent: '51' }, ['taxRates[0].percent: unusual-rate']],
    [{ percent: '50' }, []],
    [{ percent: '-3', reason: 'rebate' }, ['taxRates[0].percent: negative']],
    [{ country: 'XX' }, ['taxRates[0].country: unknown']],
    [{ country: 'UK' }, ['taxRates[0].country: unknown']],
    [{ country: 'Ireland' }, ['taxRates[0].country: unknown']],
    [{ country: '', city: 'Cork' }, ['taxRates[0].country: missing']],
    [{ postcode: '94199-94100' }, ['taxRates[0].postcode: malformed']],
    [{ from: '2027-02-01', to: '2027-01-01' }, ['taxRates[0].to: reversed-window']],
  ])('%j', (fields, expected) => expect(rate(fields)).toEqual(expected))

  test('the same place and class twice at once, and taxes upon each other', () => {
    const same = { tax: 'vat', country: 'IE', percent: '20' }
    expect(
      refusals({
        taxes,
        taxRates: [
          { id: 'a', ...same },
          { id: 'b', ...same, from: '2027-01-01' },
        ],
      }),
    ).toHaveLength(2)
    expect(
      refusals({
        taxes,
        taxRates: [
          { id: 'a', ...same, to: '2027-01-01' },
          { id: 'b', ...same, from: '2027-01-01' },
        ],
      }),
    ).toEqual([])
    expect(
      refusals({
        taxes: [
          { code: 'a', name: 'A', upon: ['b'] },
          { code: 'b', name: 'B', upon: ['a'] },
        ],
      })[0],
    ).toContain('cycle')
  })

  test('a rate keeps its digits', () => {
    const parsed = parseTaxRate({
      ...{
        id: 'r',
        tax: 'vat',
        taxClass: null,
        country: 'us',
        state: ' ca ',
        postcode: '',
        city: '',
      },
      percent: '9.975',
      from: null,
      to: null,
      reason: '',
    })
    expect(parsed).toMatchObject({ ok: true, value: { percent: '9.975', country: 'US', state: 'CA' } })
  })
})

test.each([
  ['94103', '94103', true],
  ['94103', '94 103', true],
  ['94*', '94103', true],
  ['94*', '95103', false],
  ['94100-94199', '94105', true],
  ['94100-94199', '94200', false],
  ['D02*', 'd02 xy45', true],
])('the pattern %s and the postcode %s: %s', (pattern, postcode, holds) =>
  expect(codesCovered(readPostcode(pattern) as PostcodePattern, postcode) !== null).toBe(holds),
)
