import { add, type Decimal, decimal, HUNDRED, multiply } from '@/core/decimal/decimal'
import { toFraction } from '@/core/decimal/fraction'
import { type RoundingRule, roundPrice, toMinorUnit } from '@/core/decimal/rounding'
import { listPrices } from '@/core/engine/price/list-prices'
import { prepare } from '@/core/engine/prepare'
import { findPrice, ONE_PIECE } from '@/core/engine/price/find-price'
import { methodOperation, toUnits } from '@/core/engine/lists/operation'
import { openPricingContext } from '@/core/engine/price/open-pricing-context'
import {
  compilePriceStep,
  fromUnits,
  runPriceStep,
  sweepPriceStep,
  toPrice,
} from '@/core/engine/lists/price-step'
import { buyerContext } from '@/core/engine/context/buyer-context'
import { EVERYTHING } from '@/core/predicates/what'
import { ALWAYS } from '@/core/predicates/when'
import { EVERYWHERE } from '@/core/predicates/where'
import type { PriceMethod } from '@/core/price/lines/price-method'
import { applyChanges } from '@/core/store/store'
import { EVERY_VARIANT, INSTANTS, randomStore } from '@tests/fixtures/random-store'
import fc from 'fast-check'

const percent = (value: string): PriceMethod => ({
  kind: 'percent',
  percent: decimal(value),
  reference: { kind: 'base' },
})
const off = (value: string): PriceMethod => ({
  kind: 'amount',
  amount: decimal(value),
  reference: { kind: 'base' },
})
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
  return toPrice(runPriceStep(compiled(method, rule, digits), toUnits(decimal(base), digits)), digits)
}

function compiled(method: PriceMethod, rule: RoundingRule | null, digits: number) {
  return compilePriceStep(methodOperation(method, { source: digits, target: digits }), rule, digits)
}

/** Percent and amount by plain decimals. */
function exactly(method: PriceMethod, base: Decimal): Decimal {
  if (method.kind === 'amount') return add(base, method.amount)
  if (method.kind !== 'percent') throw new Error(method.kind)
  return multiply(base, multiply(add(HUNDRED, method.percent), decimal('0.01')))
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
  ] as const)('%s', (_reason, method, rule, base, expected) => expect(run(method, rule, base)).toBe(expected))

  test.each([
    ['nothing left', off('-12.50'), '12.50'],
    ['less than nothing', off('-20'), '12.50'],
  ])('%s is no price', (_reason, method, base) => expect(run(method, null, base)).toBeNull())

  test('with nothing to start from there is no price', () => {
    const result = (method: PriceMethod) => toPrice(runPriceStep(compiled(method, null, 2), Number.NaN), 2)
    expect(result(percent('-5'))).toBeNull()
    expect(result(off('1'))).toBeNull()
  })

  test('a rule finer than the currency is rounded once more, to what can be paid', () =>
    expect(run(percent('-15'), endings('1', ['0.95'], 'nearest'), '5000', 0)).toBe('4250'))

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
        const exact = exactly(method, fromUnits(units, digits))
        const expected =
          exact.startsWith('-') || exact === '0'
            ? null
            : roundPrice(toFraction(exact), rule ?? toMinorUnit(digits))
        const found = runPriceStep(compiled(method, rule, digits), units)
        expect(toPrice(found, digits)).toBe(expected)
        const swept = new Float64Array(1)
        sweepPriceStep(compiled(method, rule, digits), Float64Array.of(units), swept, 0, 1)
        expect(swept[0]).toBe(found)
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
          const made = compiled(method, rule, 2)
          const [low, high] = [runPriceStep(made, units), runPriceStep(made, units + more)]
          if (!Number.isNaN(low)) expect(high).toBeGreaterThanOrEqual(low)
        },
      ),
    )
  })
})

test('what a list gives is what everybody pays when it is the only one and for everyone', () => {
  fc.assert(
    fc.property(randomStore, fc.constantFrom(...INSTANTS), (store, at) => {
      const [list] = store['price-list'].values()
      if (!list) throw new Error('no list')
      const everyone = { include: [{ kind: 'everyone' as const }], exclude: [] }
      const alone = applyChanges(store, [
        ...[...store['price-list'].values()].map((before) => ({
          kind: 'price-list' as const,
          id: before.id,
          before,
          after:
            before.id === list.id
              ? {
                  ...before,
                  state: 'on' as const,
                  currency: 'EUR',
                  audience: everyone,
                  scope: EVERYTHING,
                  place: EVERYWHERE,
                  schedule: ALWAYS,
                }
              : { ...before, state: 'off' as const },
        })),
        ...[...store.adjustment.values()].map((before) => ({
          kind: 'adjustment' as const,
          id: before.id,
          before,
          after: { ...before, state: 'off' as const },
        })),
      ])
      const prepared = prepare(alone)
      const opened = openPricingContext(prepared, { ...buyerContext({ kind: 'guest' }, at), currency: 'EUR' })
      if (!opened.ok) throw new Error(opened.error.code)
      const given = listPrices(prepared, opened.value, list.id, ONE_PIECE)
      for (const variant of EVERY_VARIANT) {
        const number = prepared.index.numberOf.get(variant) as number
        const price = given?.prices[number] as number
        const paid = findPrice(prepared, opened.value, number)
        expect(paid.entry?.compiled.list.id === list.id).toBe(!Number.isNaN(price))
        if (!Number.isNaN(price)) expect(paid.unadjusted).toBe(price)
        expect((given?.lineOf[number] as number) >= 0).toBe(!Number.isNaN(price))
      }
      expect(listPrices(prepared, opened.value, 'no such list', ONE_PIECE)).toBeNull()
    }),
  )
})
