import { decimal } from '@/core/decimal/decimal'
import { toFraction } from '@/core/decimal/fraction'
import { type RoundingRule, roundPrice, toMinorUnit } from '@/core/decimal/rounding'
import { listPrices } from '@/core/engine/list-prices'
import { prepare } from '@/core/engine/prepare'
import { lookUpPrice } from '@/core/engine/price-column'
import {
  applyMethod,
  compilePriceStep,
  fromUnits,
  runPriceStep,
  toPrice,
  toUnits,
} from '@/core/engine/price-step'
import type { PriceMethod } from '@/core/price/price-list'
import { applyChanges } from '@/core/store/store'
import { EVERY_VARIANT, randomStore } from '@tests/fixtures/random-store'
import fc from 'fast-check'

const percent = (value: string): PriceMethod => ({
  kind: 'percent',
  percent: decimal(value),
  reference: 'base',
})
const off = (value: string): PriceMethod => ({ kind: 'amount', amount: decimal(value), reference: 'base' })
const endings = (period: string, ends: readonly string[], mode: 'up' | 'down' | 'nearest'): RoundingRule => ({
  kind: 'endings',
  period: decimal(period),
  endings: ends.map(decimal),
  mode,
})
const step = (size: string, mode: 'half-up' | 'half-even' | 'up' | 'down'): RoundingRule => ({
  kind: 'step',
  step: decimal(size),
  mode,
})

/** The price a compiled step makes of a base price, as an amount. */
function run(method: PriceMethod, rule: RoundingRule | null, base: string, digits = 2): string | null {
  return toPrice(runPriceStep(compilePriceStep(method, rule, digits), toUnits(decimal(base), digits)), digits)
}

describe('a compiled step', () => {
  // Own inputs, worked by hand; each is a trap that gives another cent when done carelessly.
  test.each([
    ['a tie goes up', percent('-10'), null, '25.95', '23.36'],
    ['a tie goes to even', percent('-10'), step('0.01', 'half-even'), '25.95', '23.36'],
    ['a tie goes to even, downwards', percent('-50'), step('0.01', 'half-even'), '0.09', '0.04'],
    ['half a percent', percent('-0.5'), null, '1.00', '1'],
    ['to five cents', percent('-12'), step('0.05', 'half-up'), '25.90', '22.8'],
    ['up to five cents, already there', percent('0'), step('0.05', 'up'), '22.80', '22.8'],
    ['an ending already there stays', percent('0'), endings('1', ['0.95'], 'up'), '12.95', '12.95'],
    ['an ending in the middle goes up', percent('0'), endings('1', ['0.99'], 'nearest'), '12.49', '12.99'],
    [
      'below the first ending, down takes the one before',
      percent('0'),
      endings('10', ['4.90', '9.90'], 'down'),
      '12.00',
      '9.9',
    ],
    [
      'below every ending, down still gives a price',
      percent('0'),
      endings('10', ['4.90', '9.90'], 'down'),
      '2.00',
      '4.9',
    ],
    ['never to zero', percent('-99'), step('1', 'down'), '20.00', '1'],
    ['an ending of zero is no price', percent('-99'), endings('1', ['0', '0.50'], 'down'), '20.00', '0.5'],
    ['an amount off', off('-0.60'), null, '12.50', '11.9'],
    [
      'a fixed amount is not rounded by the rule',
      { kind: 'fixed', amount: decimal('17.63') },
      step('0.05', 'up'),
      '99.00',
      '17.63',
    ],
  ] as const)('%s', (_reason, method, rule, base, expected) => expect(run(method, rule, base)).toBe(expected))

  test.each([
    ['nothing left', off('-12.50'), '12.50'],
    ['less than nothing', off('-20'), '12.50'],
  ])('%s is no price', (_reason, method, base) => expect(run(method, null, base)).toBeNull())

  test('without a base price only a fixed amount is a price', () => {
    const result = (method: PriceMethod) =>
      toPrice(runPriceStep(compilePriceStep(method, null, 2), Number.NaN), 2)
    expect(result(percent('-5'))).toBeNull()
    expect(result(off('1'))).toBeNull()
    expect(result({ kind: 'fixed', amount: decimal(3) })).toBe('3')
  })

  const rules = fc.oneof(
    fc.constant(null),
    fc
      .tuple(
        fc.constantFrom('0.01', '0.05', '0.5', '1', '10'),
        fc.constantFrom('half-up' as const, 'half-even' as const, 'up' as const, 'down' as const),
      )
      .map(([size, mode]) => step(size, mode)),
    fc
      .tuple(
        fc.uniqueArray(fc.integer({ min: 0, max: 999 }), { minLength: 1, maxLength: 4 }),
        fc.constantFrom('up' as const, 'down' as const, 'nearest' as const),
      )
      .map(([ends, mode]) =>
        endings(
          '10',
          ends.sort((a, b) => a - b).map((end) => (end / 100).toFixed(2)),
          mode,
        ),
      ),
  )
  const methods = fc.oneof(
    fc.integer({ min: -999_999, max: 2_000_000 }).map((value) => percent((value / 10_000).toFixed(4))),
    fc.integer({ min: -50_000, max: 50_000 }).map((value) => off((value / 100).toFixed(2))),
  )

  test('is the plain rational arithmetic, for small prices, for huge ones and on the edge between', () => {
    const bases = fc.oneof(
      fc.integer({ min: 1, max: 100_000 }),
      fc.integer({ min: 1, max: 2 ** 45 }),
      fc.integer({ min: 2 ** 28, max: 2 ** 36 }),
    )
    fc.assert(
      fc.property(methods, rules, bases, fc.integer({ min: 2, max: 4 }), (method, rule, units, digits) => {
        const exact = applyMethod(method, fromUnits(units, digits))
        const expected =
          exact.startsWith('-') || exact === '0'
            ? null
            : roundPrice(toFraction(exact), rule ?? toMinorUnit(digits))
        expect(toPrice(runPriceStep(compilePriceStep(method, rule, digits), units), digits)).toBe(expected)
      }),
      { numRuns: 2_000 },
    )
  })

  test('a dearer base never makes a cheaper price', () => {
    fc.assert(
      fc.property(
        methods,
        rules,
        fc.integer({ min: 1, max: 500_000 }),
        fc.integer({ min: 0, max: 500 }),
        (method, rule, units, more) => {
          const compiled = compilePriceStep(method, rule, 2)
          const [low, high] = [runPriceStep(compiled, units), runPriceStep(compiled, units + more)]
          if (!Number.isNaN(low)) expect(high).toBeGreaterThanOrEqual(low)
        },
      ),
    )
  })
})

test('what a list gives is what everybody pays when it is the only one and for everyone', () => {
  fc.assert(
    fc.property(randomStore, (store) => {
      const [list] = store['price-list'].values()
      fc.pre(list !== undefined)
      const alone = applyChanges(
        store,
        [...store['price-list'].values()].map((before) => ({
          kind: 'price-list' as const,
          id: before.id,
          before,
          after:
            before.id === list.id
              ? {
                  ...before,
                  state: 'on' as const,
                  audience: { include: [{ kind: 'everyone' as const }], exclude: [] },
                }
              : { ...before, state: 'off' as const },
        })),
      )
      const prepared = prepare(alone)
      const given = listPrices(prepared, list.id)
      for (const variant of EVERY_VARIANT) {
        const number = prepared.index.numberOf.get(variant) as number
        const price = toPrice(given?.prices[number] as number, 2)
        const paid = lookUpPrice(prepared, { kind: 'guest' }, variant)
        expect(paid?.list === list.id).toBe(price !== null)
        if (price !== null) expect(paid?.unit).toBe(price)
        expect((given?.lineOf[number] as number) >= 0).toBe(price !== null)
      }
      expect(listPrices(prepared, 'no such list')).toBeNull()
    }),
  )
})
