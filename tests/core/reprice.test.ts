import { decimal } from '@/core/decimal/decimal'
import { prepare } from '@/core/engine/prepare'
import { EVERYTHING } from '@/core/predicates/what'
import { medianDeviation } from '@/core/reprice/median-deviation'
import { repriceRows, type RepriceRow, type RepriceRule } from '@/core/reprice/reprice'
import { repriceFigures } from '@/core/reprice/reprice-figures'
import { atOnce } from '@/core/steps/steps'
import { writtenStore } from '@tests/fixtures/written-store'

// Source: the worked example of the article “Median absolute deviation” of Wikipedia: 1, 1, 2, 2, 4, 6, 9 (from memory).
test('the median absolute deviation of the usual example', () => {
  expect(medianDeviation([1, 1, 2, 2, 4, 6, 9])).toEqual({ median: 2, deviation: 1 })
  expect(medianDeviation([])).toEqual({ median: 0, deviation: 0 })
})

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
    repriceRows(prepare(STORE), {
      what: EVERYTHING,
      field: 'basePrice',
      from: 'basePrice',
      steps: [{ from: null, expression: { kind: 'percent', percent: decimal(5) } }],
      rounding: null,
      ...rule,
    }),
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

test('an amount is rounded once: what lies just below the middle of two endings goes down', () => {
  // 24.90 × 1.02004 = 25.398996; rounded to the cent first it would be 25.40, the middle of 24.90 and 25.90.
  const store = writtenStore({
    categories: [{ code: 'a', name: 'A' }],
    products: [{ code: 'P', name: 'P', categories: ['a'], basePrice: '24.90' }],
    variants: [{ sku: 'P', product: 'P' }],
  })
  const [row] = atOnce(
    repriceRows(prepare(store), {
      what: EVERYTHING,
      field: 'basePrice',
      from: 'basePrice',
      steps: [{ from: null, expression: { kind: 'percent', percent: decimal('2.004') } }],
      rounding: { kind: 'endings', period: decimal(1), endings: [decimal('0.90')], mode: 'nearest' },
    }),
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
  const figures = repriceFigures([
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
  const of = (...next: string[]) => repriceFigures(next.map((each) => row('100.00', each)))
  // The median is 5; 2, 1, 0, 1 and 3 away from it, in the middle 1.
  expect([...of('103.00', '104.00', '105.00', '106.00', '108.00').outliers]).toEqual([])
  const outliers = [...of('103.00', '104.00', '105.00', '106.00', '108.01').outliers]
  expect(outliers.map(({ next }) => next)).toEqual(['108.01'])
  // +4 % to the cent: 4.00, 4.01, 3.99 and 4.10 % are the same rule.
  expect(of('104.00', '104.01', '103.99', '104.10').outliers.size).toBe(0)
  expect(of('103.00', '103.00', '103.00', '109.00').outliers.size).toBe(0)
  expect(of()).toMatchObject({ median: null, quartiles: null, margins: null, moves: [] })
})
