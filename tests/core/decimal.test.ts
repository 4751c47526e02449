import { add, compare, decimal, multiply, parseDecimal, subtract, toFixed } from '@/core/decimal/decimal'
import { divide, toExactDecimal, toFraction } from '@/core/decimal/fraction'
import {
  type RoundingMode,
  roundPrice,
  roundToDigits,
  roundToStep,
  toMinorUnit,
} from '@/core/decimal/rounding'
import Decimal from 'decimal.js'
import fc from 'fast-check'

// A clone: the global settings of the reference library stay as they are.
const Reference = Decimal.clone({ precision: 80, toExpNeg: -60, toExpPos: 60 })

const decimals = fc
  .tuple(fc.bigInt({ min: -(10n ** 15n), max: 10n ** 15n }), fc.integer({ min: 0, max: 8 }))
  .map(([digits, scale]) => new Reference(digits.toString()).div(new Reference(10).pow(scale)).toFixed())

describe('reading a decimal', () => {
  test.each([
    ['a price', '19.90', '19.9'],
    ['leading zeros', '007', '7'],
    ['no digit before the point', '.5', '0.5'],
    ['no digit after the point', '5.', '5'],
    ['a plus sign', '+5', '5'],
    ['minus zero is zero', '-0.00', '0'],
    ['beyond binary doubles', '9007199254740993.1', '9007199254740993.1'],
  ])('%s: %s is %s', (_reason, text, value) => expect(parseDecimal(text)).toBe(value))

  test.each(['', '.', '-', '12,5', '1 000', '1e3', '12.5x', '0x10', 'NaN', '1.2.3'])(
    '%p is refused',
    (text) => expect(parseDecimal(text)).toBeNull(),
  )

  test('a mistake in the code throws', () => expect(() => decimal('12,5')).toThrow(RangeError))
})

// Source: API documentation of java.math.RoundingMode, "Summary of Rounding Operations Under Different
// Rounding Modes" (Java SE 5, 2004); from memory, recomputed with exact rationals.
const MODES: readonly RoundingMode[] = ['up', 'down', 'ceiling', 'floor', 'half-up', 'half-down', 'half-even']
test.each([
  ['5.5', '6', '5', '6', '5', '6', '5', '6'],
  ['2.5', '3', '2', '3', '2', '3', '2', '2'],
  ['1.6', '2', '1', '2', '1', '2', '2', '2'],
  ['1.1', '2', '1', '2', '1', '1', '1', '1'],
  ['1.0', '1', '1', '1', '1', '1', '1', '1'],
  ['-1.0', '-1', '-1', '-1', '-1', '-1', '-1', '-1'],
  ['-1.1', '-2', '-1', '-1', '-2', '-1', '-1', '-1'],
  ['-1.6', '-2', '-1', '-1', '-2', '-2', '-2', '-2'],
  ['-2.5', '-3', '-2', '-2', '-3', '-3', '-2', '-2'],
  ['-5.5', '-6', '-5', '-5', '-6', '-6', '-5', '-6'],
])('rounding %s in each mode', (value, ...expected) => {
  expect(MODES.map((mode) => roundToDigits(toFraction(decimal(value)), 0, mode))).toEqual(expected)
})

// Source: decTest files v2.59 (M. Cowlishaw, General Decimal Arithmetic testcases), by file and test id.
test.each([
  ['tointegralx intxx210', '55.5', 0, 'half-even', '56'],
  ['tointegralx intxx212', '57.5', 0, 'half-even', '58'],
  ['tointegralx intxx214', '-56.5', 0, 'half-even', '-56'],
  ['tointegralx intxx221', '56.5', 0, 'half-up', '57'],
  ['tointegralx intxx223', '-55.5', 0, 'half-up', '-56'],
  ['tointegralx intxx230', '55.5', 0, 'half-down', '55'],
  ['tointegralx intxx234', '-56.5', 0, 'half-down', '-56'],
  ['tointegralx intxx240', '55.3', 0, 'up', '56'],
  ['tointegralx intxx244', '-56.3', 0, 'up', '-57'],
  ['tointegralx intxx250', '55.7', 0, 'down', '55'],
  ['tointegralx intxx261', '56.3', 0, 'ceiling', '57'],
  ['tointegralx intxx264', '-56.3', 0, 'ceiling', '-56'],
  ['tointegralx intxx271', '56.7', 0, 'floor', '56'],
  ['tointegralx intxx274', '-56.7', 0, 'floor', '-57'],
  ['ddQuantize ddqua1103', '1.2350', 2, 'half-even', '1.24'],
  ['ddQuantize ddqua1105', '1.2450', 2, 'half-even', '1.24'],
  ['ddQuantize ddqua1106', '1.2451', 2, 'half-even', '1.25'],
  ['ddQuantize ddqua1205', '1.2450', 2, 'half-up', '1.25'],
  ['ddQuantize ddqua1305', '1.2450', 2, 'half-down', '1.24'],
  ['ddQuantize ddqua1401', '1.2301', 2, 'up', '1.24'],
  ['ddQuantize ddqua1411', '-1.2399', 2, 'up', '-1.24'],
  ['ddQuantize ddqua1509', '1.2399', 2, 'down', '1.23'],
  ['ddQuantize ddqua1511', '-1.2399', 2, 'down', '-1.23'],
  ['ddQuantize ddqua1611', '-1.2399', 2, 'ceiling', '-1.23'],
  ['ddQuantize ddqua1711', '-1.2399', 2, 'floor', '-1.24'],
  ['quantize quax093', '1.2345', 2, 'half-up', '1.23'],
  ['quantize quax096', '9.9999', 2, 'half-up', '10'],
] as const)('decTest %s', (_id, value, digits, mode, expected) =>
  expect(roundToDigits(toFraction(decimal(value)), digits, mode)).toBe(expected),
)

test('decTest divide divx1033: 4.7 ÷ 2 is 2.35', () =>
  expect(toExactDecimal(divide(decimal('4.7'), decimal('2')))).toBe('2.35'))

describe('rounding once', () => {
  // Source: own inputs recomputed with exact rationals (checks.md R60–R63): rounding on the way gives another cent.
  test.each([
    ['10.4449', 2, '10.44'],
    ['2.3349999', 2, '2.33'],
    ['0.4996', 0, '0'],
    ['99.4951', 0, '99'],
  ])('%s to %d digits is %s', (value, digits, expected) =>
    expect(roundToDigits(toFraction(decimal(value)), digits, 'half-up')).toBe(expected),
  )

  // Source: R70 is the telephone call of M. Cowlishaw's "Decimal Arithmetic FAQ" part 1 (from memory); the
  // others are own inputs (checks.md R71–R78). Binary doubles get most of these wrong.
  test.each([
    ['0.70', '1.05', 2, '0.74'],
    ['1.005', '1', 2, '1.01'],
    ['2.675', '1', 2, '2.68'],
    ['1.15', '100', 0, '115'],
    ['8.325', '1', 2, '8.33'],
    ['47.30', '0.05', 2, '2.37'],
    ['4.35', '100', 0, '435'],
    ['41.50', '0.19', 2, '7.89'],
  ])('%s × %s', (left, right, digits, expected) =>
    expect(roundToDigits(toFraction(multiply(decimal(left), decimal(right))), digits, 'half-up')).toBe(
      expected,
    ),
  )
})

describe('price endings', () => {
  const ending = (period: string, endings: string[], mode: 'up' | 'down' | 'nearest') =>
    ({ kind: 'endings', period: decimal(period), endings: endings.map(decimal), mode }) as const
  const round = (value: string, period: string, endings: string[], mode: 'up' | 'down' | 'nearest') =>
    roundPrice(toFraction(decimal(value)), ending(period, endings, mode))

  // Common practice, no source (checks.md P1–P5).
  test.each([
    ['between two', '12.34', '1', '0.99', '11.99', '12.99', '11.99'],
    ['just above the middle', '12.50', '1', '0.99', '11.99', '12.99', '12.99'],
    ['already there', '12.99', '1', '0.99', '12.99', '12.99', '12.99'],
    ['in the middle, a tie goes up', '12.49', '1', '0.99', '11.99', '12.99', '12.99'],
    ['tens', '147.20', '10', '9.95', '139.95', '149.95', '149.95'],
  ])('%s: %s', (_reason, value, period, end, down, up, nearest) =>
    expect([
      round(value, period, [end], 'down'),
      round(value, period, [end], 'up'),
      round(value, period, [end], 'nearest'),
    ]).toEqual([down, up, nearest]),
  )

  test.each([
    ['below the first ending, never to zero or less', '0.40', '1', ['0.99'], 'down', '0.99'],
    ['a period ending in zero, never to zero', '0.40', '1', ['0'], 'nearest', '1'],
    ['a tiny price keeps the smallest ending', '0.01', '10', ['4.9', '9.9'], 'nearest', '4.9'],
    ['two endings', '17.20', '10', ['4.9', '9.9'], 'nearest', '14.9'],
    ['two endings, over the edge of a period', '12.00', '10', ['4.9', '9.9'], 'down', '9.9'],
  ] as const)('%s', (_reason, value, period, endings, mode, expected) =>
    expect(round(value, period, [...endings], mode)).toBe(expected),
  )

  test('the result ends as asked, is never moved twice and never away from a neighbour', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 10_000_000 }),
        fc.constantFrom('up', 'down', 'nearest'),
        fc.uniqueArray(fc.integer({ min: 0, max: 999 }), { minLength: 1, maxLength: 4 }),
        (units, mode, ends) => {
          const endings = ends.sort((left, right) => left - right).map((end) => decimal(String(end / 100)))
          const rule = { kind: 'endings', period: decimal(10), endings, mode } as const
          const price = roundPrice(toFraction(decimal(String(units / 1000))), rule)
          expect(endings.map(String)).toContain(new Reference(price).mod(10).toFixed())
          expect(roundPrice(toFraction(price), rule)).toBe(price)
          expect(Number(price)).toBeGreaterThan(0)
          expect(
            new Reference(price)
              .minus(units / 1000)
              .abs()
              .lte(10),
          ).toBe(true)
        },
      ),
    )
  })
})

// Source: CLDR 48 cash rounding increments (read from the file) and national cash rounding rules from
// memory (checks.md K10–K25).
test.each([
  ['CAD', '1.02', '0.05', '1'],
  ['CAD', '1.03', '0.05', '1.05'],
  ['CAD', '1.07', '0.05', '1.05'],
  ['CAD', '1.08', '0.05', '1.1'],
  ['CHF', '19.97', '0.05', '19.95'],
  ['CHF', '12.325', '0.05', '12.35'],
  ['DKK', '10.24', '0.50', '10'],
  ['DKK', '10.25', '0.50', '10.5'],
  ['SEK', '49.49', '1', '49'],
  ['HUF', '1233', '5', '1235'],
  ['CHF', '-19.98', '0.05', '-20'],
])('%s cash: %s in steps of %s is %s', (_currency, value, step, expected) =>
  expect(roundToStep(toFraction(decimal(value)), decimal(step), 'half-up')).toBe(expected),
)

test('a positive price never rounds to zero', () =>
  expect(roundPrice(toFraction(decimal('0.004')), toMinorUnit(2))).toBe('0.01'))

describe('against decimal.js', () => {
  const MODE_NUMBERS: Record<RoundingMode, Decimal.Rounding> = {
    up: 0,
    down: 1,
    ceiling: 2,
    floor: 3,
    'half-up': 4,
    'half-down': 5,
    'half-even': 6,
  }

  test('sums, differences, products and order', () => {
    fc.assert(
      fc.property(decimals, decimals, (left, right) => {
        const [a, b] = [decimal(left), decimal(right)]
        const [x, y] = [new Reference(left), new Reference(right)]
        expect(add(a, b)).toBe(x.plus(y).toFixed())
        expect(subtract(a, b)).toBe(x.minus(y).toFixed())
        expect(multiply(a, b)).toBe(x.times(y).toFixed())
        expect(compare(a, b)).toBe(x.cmp(y))
      }),
    )
  })

  test('quotients rounded in every mode', () => {
    fc.assert(
      fc.property(
        decimals,
        decimals.filter((value) => Number(value) !== 0),
        fc.integer({ min: 0, max: 6 }),
        fc.constantFrom(...MODES),
        (left, right, digits, mode) => {
          const expected = new Reference(left).div(right).toDecimalPlaces(digits, MODE_NUMBERS[mode])
          // Minus zero is an artefact of the reference library: a price is never minus zero.
          const text = expected.isZero() ? '0' : expected.toFixed()
          expect(roundToDigits(divide(decimal(left), decimal(right)), digits, mode)).toBe(text)
        },
      ),
    )
  })

  test('padding for display loses nothing', () => {
    fc.assert(
      fc.property(decimals, fc.integer({ min: 0, max: 10 }), (text, digits) => {
        const shown = toFixed(decimal(text), digits)
        expect(decimal(shown)).toBe(decimal(text))
        expect(shown.split('.')[1]?.length ?? 0).toBeGreaterThanOrEqual(digits)
      }),
    )
  })
})
