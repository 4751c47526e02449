import { decimal } from '@/core/decimal/decimal'
import { prepare } from '@/core/engine/prepare'
import { EVERYTHING } from '@/core/predicates/what'
import { medianDeviation } from '@/core/reprice/median-deviation'
import { repriceRows, type RepriceRow, type RepriceRule } from '@/core/reprice/reprice'
import { NO_AMOUNTS } from '@/core/catalogue/product'
import { withAmount } from '@/core/reprice/reprice-target'
import { repriceFigures } from '@/core/reprice/reprice-figures'
import { atOnce } from '@/core/steps/steps'
import { writtenStore } from '@tests/fixtures/written-store'

// Source: the worked example of the article “Median absolute deviation” of Wikipedia: 1, 1, 2, 2, 4, 6, 9 (from memory).
test('the median absolute deviation of the usual example', () => {
  expect(medianDeviation([1, 1, 2, 2, 4, 6, 9])).toEqual({ median: 2, deviation: 1 })
  expect(medianDeviation([])).toEqual({ median: 0, deviation: 0 })
})

const AT = Date.parse('2027-03-15T12:00:00Z')

const STORE = writtenStore({
  categories: [
    { code: 'a', name: 'A' },
    { code: 'b', name: 'B' },
  ],
  products: [
    { code: 'P', name: 'P', categories: ['a'], axes: ['Size'], basePrice: '10.00', cost: '6.00' },
    { code: 'Q', name: 'Q', categories: ['b'], basePrice: '50.00', cost: '20.00' },
    { code: 'R', name: 'R', categories: ['b'] },
  ],
  variants: [
    { sku: 'P-S', product: 'P', options: { Size: 'S' } },
    { sku: 'P-M', product: 'P', options: { Size: 'M' } },
    { sku: 'P-L', product: 'P', options: { Size: 'L' }, basePrice: '12.00' },
    { sku: 'Q', product: 'Q' },
    { sku: 'R', product: 'R' },
  ],
})
const rows = (rule: Partial<RepriceRule>) =>
  atOnce(
    repriceRows(
      prepare(STORE),
      {
        what: EVERYTHING,
        only: null,
        target: { kind: 'amount', field: 'basePrice' },
        from: null,
        steps: [{ from: null, expression: { kind: 'percent', percent: decimal(5) } }],
        rounding: null,
        ...rule,
      },
      AT,
    ),
  ).map(({ record, id, next, problem }) => [record, id, next ?? problem])

test('a product changes once where all that take its price over are meant, and variants with their own by themselves', () => {
  expect(rows({})).toEqual([
    ['product', 'P', '10.5'],
    ['variant', 'P-L', '12.6'],
    ['product', 'Q', '52.5'],
    ['variant', 'R', 'no-current-price'],
  ])
})

test('where only some variants are meant, each gets a price of its own', () => {
  const what = { include: [{ kind: 'variant', variant: 'P-S' } as const], exclude: [] }
  expect(rows({ what })).toEqual([['variant', 'P-S', '10.5']])
})

test('what is meant is narrowed by what it has, variant by variant', () => {
  const only = { include: [{ kind: 'attribute', name: 'Size', value: 'M' } as const], exclude: [] }
  expect(rows({ only })).toEqual([['variant', 'P-M', '10.5']])
})

test('an amount is rounded once: what lies just below the middle of two endings goes down', () => {
  // 24.90 × 1.02004 = 25.398996; rounded to the cent first it would be 25.40, the middle of 24.90 and 25.90.
  const store = writtenStore({
    categories: [{ code: 'a', name: 'A' }],
    products: [{ code: 'P', name: 'P', categories: ['a'], basePrice: '24.90' }],
    variants: [{ sku: 'P', product: 'P' }],
  })
  const [row] = atOnce(
    repriceRows(
      prepare(store),
      {
        what: EVERYTHING,
        only: null,
        target: { kind: 'amount', field: 'basePrice' },
        from: null,
        steps: [{ from: null, expression: { kind: 'percent', percent: decimal('2.004') } }],
        rounding: { kind: 'endings', period: decimal(1), endings: [decimal('0.90')], mode: 'nearest' },
      },
      AT,
    ),
  )
  expect(row).toMatchObject({ now: '24.9', byRule: '25.4', next: '24.9', problem: null })
})

test('steps by what a price is, another amount to start from, endings, and what cannot be', () => {
  const steps = [
    { from: null, expression: { kind: 'percent', percent: decimal(10) } as const },
    { from: decimal(12), expression: { kind: 'percent', percent: decimal(1) } as const },
  ]
  expect(rows({ steps }).map(([, , next]) => next)).toEqual(['11', '12.12', '50.5', 'no-current-price'])
  const rounding = {
    kind: 'endings',
    period: decimal(1),
    endings: [decimal('0.90')],
    mode: 'nearest',
  } as const
  expect(rows({ rounding }).map(([, , next]) => next)).toEqual(['10.9', '12.9', '52.9', 'no-current-price'])
  const factor = [{ from: null, expression: { kind: 'factor', factor: decimal(2) } as const }]
  expect(rows({ from: 'cost', steps: factor }).map(([, , next]) => next)).toEqual([
    '12',
    '12',
    '40',
    'no-current-price',
  ])
  const margin = [{ from: null, expression: { kind: 'margin', percent: decimal(40) } as const }]
  expect(rows({ steps: margin }).map(([, , next]) => next)).toEqual(['10', '10', '33.33', 'no-cost'])
  const less = [{ from: null, expression: { kind: 'change', amount: decimal(-20) } as const }]
  expect(rows({ steps: less }).map(([, , next]) => next)).toEqual([
    'not-positive',
    'not-positive',
    '30',
    'no-current-price',
  ])
})

const figuresOf = (rows: readonly RepriceRow[]) => atOnce(repriceFigures(rows))

const row = (
  now: string | null,
  next: string | null,
  cost: string | null = null,
  problem: RepriceRow['problem'] = null,
) =>
  ({
    record: 'variant',
    id: `${now} ${next}`,
    now: now === null ? null : decimal(now),
    byRule: next === null ? null : decimal(next),
    next: next === null ? null : decimal(next),
    problem,
    cost: cost === null ? null : decimal(cost),
  }) as RepriceRow

// Worked by hand; no source needed for arithmetic.
test('figures of a rule: the middle, the half around it, margins, and what falls below cost', () => {
  const figures = figuresOf([
    row('10.00', '10.40', '6.00'),
    row('20.00', '20.60', '20.70'),
    row('1.60', '2.06'),
    row('5.00', '5.00', '1.00'),
    row(null, null, '1.00', 'no-current-price'),
    row(null, '3.00'),
  ])
  expect(figures).toMatchObject({
    // +3, +4 and +28.75 %.
    median: '4',
    quartiles: ['3', '4'],
    belowCost: 1,
    // 30.00 and 31.00 with costs of 26.70.
    margins: { now: '11', next: '13.9' },
  })
  expect(figures.moves.map((move) => move.toFixed(2))).toEqual(['3.00', '4.00', '28.75'])
  expect([figures.changing, figures.same, figures.problems].map(({ length }) => length)).toEqual([4, 1, 1])
})

test('an amount that moves by more than three deviations stands out, unless more than half move alike', () => {
  const of = (...next: string[]) => figuresOf(next.map((each) => row('100.00', each)))
  // The median is 5; 2, 1, 0, 1 and 3 away from it, in the middle 1.
  expect([...of('103.00', '104.00', '105.00', '106.00', '108.00').outliers]).toEqual([])
  const outliers = [...of('103.00', '104.00', '105.00', '106.00', '108.01').outliers]
  expect(outliers.map(({ next }) => next)).toEqual(['108.01'])
  // +4 % to the cent: 4.00, 4.01, 3.99 and 4.10 % are the same rule.
  expect(of('104.00', '104.01', '103.99', '104.10').outliers.size).toBe(0)
  expect(of('103.00', '103.00', '103.00', '109.00').outliers.size).toBe(0)
  expect(of()).toMatchObject({ median: null, quartiles: null, margins: null, moves: [] })
})

describe('amounts set in another currency, and prices fixed in lists', () => {
  const abroad = writtenStore({
    settings: { currency: 'EUR' },
    currencies: [{ code: 'GBP', priceDigits: 2, fee: '0', rounding: null }],
    exchangeRates: [
      {
        id: 'gbp',
        currency: 'GBP',
        per: 'EUR',
        rate: '0.80',
        from: '2027-01-01T00:00:00Z',
        source: 'manual',
      },
    ],
    categories: [{ code: 'a', name: 'A' }],
    products: [
      {
        code: 'P',
        name: 'P',
        categories: ['a'],
        axes: ['Size'],
        basePrice: '10.00',
        cost: '6.00',
        ownAmounts: { GBP: { ...NO_AMOUNTS, basePrice: '9.00' } },
      },
      { code: 'Q', name: 'Q', categories: ['a'], basePrice: '50.00', cost: '20.00' },
    ],
    variants: [
      { sku: 'P-S', product: 'P', options: { Size: 'S' } },
      { sku: 'P-L', product: 'P', options: { Size: 'L' }, basePrice: '12.00' },
      { sku: 'Q', product: 'Q' },
    ],
    groups: [{ code: 'farms', name: 'Farms', trade: true }],
    priceLists: [
      {
        code: 'own',
        name: 'Own',
        currency: 'GBP',
        audience: { include: [{ kind: 'group', group: 'farms' }] },
      },
    ],
    priceLines: [
      {
        id: 'both',
        list: 'own',
        scope: { include: [{ kind: 'product', product: 'P' }] },
        breaks: [
          { from: '0', method: { kind: 'fixed', amount: '8.00' } },
          { from: '10', method: { kind: 'percent', percent: '-20', reference: { kind: 'base' } } },
          { from: '50', method: { kind: 'fixed', amount: '7.00' } },
        ],
      },
      {
        id: 'all',
        position: 1,
        list: 'own',
        scope: { include: [{ kind: 'everything' }] },
        breaks: [{ from: '0', method: { kind: 'fixed', amount: '30.00' } }],
      },
    ],
  })
  const of = (rule: Partial<RepriceRule>) =>
    atOnce(
      repriceRows(
        prepare(abroad),
        {
          what: EVERYTHING,
          only: null,
          target: { kind: 'own-amount', field: 'basePrice', currency: 'GBP' },
          from: null,
          steps: [{ from: null, expression: { kind: 'percent', percent: decimal(5) } }],
          rounding: null,
          ...rule,
        },
        AT,
      ),
    )

  test('only what is set in the currency changes, at costs of that currency', () => {
    // 9.00 + 5 %; the cost of 6.00 at 0.80 is 4.80. The variant with a price of its own takes over none abroad.
    expect(of({})).toMatchObject([{ record: 'product', id: 'P', now: '9', next: '9.45', cost: '4.8' }])
  })

  test('a rule that starts from another amount sets it where none is set, converted at the rate of the day', () => {
    // 10.00, 12.00 and 50.00 at 0.80, less 10 %.
    const steps = [{ from: null, expression: { kind: 'percent', percent: decimal(-10) } as const }]
    expect(of({ from: 'recommendedPrice', steps }).map(({ problem }) => problem)).toEqual([
      'no-current-price',
      'no-current-price',
      'no-current-price',
    ])
    expect(of({ from: 'cost', steps }).map(({ record, id, next }) => [record, id, next])).toEqual([
      ['product', 'P', '4.32'],
      ['variant', 'P-L', '4.32'],
      ['product', 'Q', '14.4'],
    ])
  })

  test('of a list each fixed price changes, break by break; what is for more than is meant is told and left', () => {
    const target = { kind: 'list', list: 'own' } as const
    const what = { include: [{ kind: 'product', product: 'P' } as const], exclude: [] }
    expect(of({ target, what }).map(({ id, at, next, problem }) => [id, at, next ?? problem])).toEqual([
      ['both', 0, '8.4'],
      ['both', 2, '7.35'],
      ['all', 0, 'reaches-further'],
    ])
    expect(of({ target }).map(({ id, at, next, cost }) => [id, at, next, cost])).toEqual([
      ['both', 0, '8.4', '4.8'],
      ['both', 2, '7.35', '4.8'],
      // The highest cost of all it is for: 20.00 at 0.80.
      ['all', 0, '31.5', '16'],
    ])
    const line = abroad['price-line'].get('both')!
    const after = withAmount(line, target, 2, decimal('7.35')) as typeof line
    expect(after.breaks.map(({ method }) => (method.kind === 'fixed' ? method.amount : method.kind))).toEqual(
      ['8', 'percent', '7.35'],
    )
  })

  test('an amount put in place leaves the others of its record as they are', () => {
    const product = abroad.product.get('P')!
    const target = { kind: 'own-amount', field: 'cost', currency: 'GBP' } as const
    expect(withAmount(product, target, 0, decimal('5'))).toEqual({
      ...product,
      ownAmounts: { GBP: { basePrice: '9', cost: '5', recommendedPrice: null, floor: null } },
    })
  })
})
