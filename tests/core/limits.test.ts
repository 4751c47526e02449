import { decimal, type Decimal } from '@/core/decimal/decimal'
import { NO_LIMITS, type QuantityLimits } from '@/core/limits/limit'
import { firstQuantity, isAllowed, nearestQuantities } from '@/core/limits/nearest-quantities'
import { findLimits } from '@/core/engine/rules/find-limits'
import { openPricingContext } from '@/core/engine/price/open-pricing-context'
import { buyerContext } from '@/core/engine/context/buyer-context'
import { goods, refusals, writtenPrepared } from '@tests/fixtures/written-store'
import fc from 'fast-check'

const d = decimal
const limits = (some: Partial<Record<keyof Omit<QuantityLimits, 'values'>, string>>, values?: string[]) =>
  ({
    ...NO_LIMITS,
    ...Object.fromEntries(Object.entries(some).map(([field, value]) => [field, d(value)])),
    values: values ? values.map((quantity) => ({ quantity: d(quantity), label: '' })) : null,
  }) as QuantityLimits

test.each([
  ['a case of 12 typed 7', limits({ multiple: '12' }), '7', null, '12'],
  ['between two cases', limits({ multiple: '12' }), '30', '24', '36'],
  ['below the least', limits({ minimum: '5' }), '3', null, '5'],
  ['above the most', limits({ maximum: '10' }), '12', '10', null],
  ['a least that is no multiple is the next one', limits({ minimum: '5', multiple: '4' }), '1', null, '8'],
  ['a most that is no multiple is the one before', limits({ maximum: '10', multiple: '4' }), '11', '8', null],
  ['one of a list', limits({}, ['6', '12', '24']), '13', '12', '24'],
  ['a list within a most', limits({ maximum: '12' }, ['6', '12', '24']), '20', '12', null],
  ['metres by the half', limits({ multiple: '0.5' }), '1.2', '1', '1.5'],
  ['nothing is right', limits({ minimum: '9', maximum: '11', multiple: '12' }), '10', null, null],
  ['what is right stays', limits({ minimum: '2' }), '2.5', '2.5', '2.5'],
])('%s', (_why, given, quantity, below, above) =>
  expect(nearestQuantities(d(quantity), given)).toEqual({ below, above }),
)

test('what is near is right, nothing right lies between, and the first quantity is right', () => {
  const quantity = fc.integer({ min: 1, max: 60 })
  fc.assert(
    fc.property(
      fc.record({
        minimum: fc.option(quantity),
        maximum: fc.option(quantity),
        multiple: fc.option(fc.integer({ min: 1, max: 9 })),
        values: fc.option(fc.uniqueArray(quantity, { minLength: 1, maxLength: 4 })),
      }),
      quantity,
      ({ values, ...some }, asked) => {
        const given = {
          ...NO_LIMITS,
          ...Object.fromEntries(
            Object.entries(some).map(([field, value]) => [field, value === null ? null : d(value)]),
          ),
          values: values && values.sort((a, b) => a - b).map((each) => ({ quantity: d(each), label: '' })),
        } as QuantityLimits
        const { below, above } = nearestQuantities(d(asked), given)
        // Counted out one by one, without the code's own way.
        const right = Array.from({ length: 200 }, (_, at) => at + 1).filter(
          (each) =>
            each >= (some.minimum ?? 1) &&
            each <= (some.maximum ?? 999) &&
            each % (some.multiple ?? 1) === 0 &&
            (values === null || values.includes(each)),
        )
        const whole = some.multiple !== null || values !== null
        const expectedBelow = right.filter((each) => each <= asked).at(-1)
        const expectedAbove = right.find((each) => each >= asked)
        if (whole || right.includes(asked)) {
          expect(below).toBe(expectedBelow === undefined ? null : d(expectedBelow))
          expect(above).toBe(expectedAbove === undefined ? null : d(expectedAbove))
        }
        for (const near of [below, above]) if (near !== null) expect(isAllowed(near, given)).toBe(true)
        const first = firstQuantity(given, d(1))
        if (right.length > 0) expect(isAllowed(first, given)).toBe(true)
      },
    ),
  )
})

describe('which level sets each field', () => {
  const prepared = writtenPrepared({
    categories: [
      { code: 'hives', name: 'Hives' },
      { code: 'frames', name: 'Frames', parent: 'hives' },
    ],
    ...goods(['FR', '1', 'frames', { limits: { ...NO_LIMITS, multiple: '5' } }], ['HV', '90', 'hives']),
    groups: [{ code: 'farms', name: 'Farms', trade: true }],
    accounts: [{ code: 'fenn', name: 'Fenn', groups: ['farms'] }],
    limits: [
      { code: 'all', name: 'All', minimum: '1', maximum: '500' },
      {
        code: 'hives',
        name: 'Hives',
        minimum: '2',
        scope: { include: [{ kind: 'category', category: 'hives', descendants: true }] },
      },
      {
        code: 'farms',
        name: 'Farms',
        minimum: '10',
        audience: { include: [{ kind: 'group', group: 'farms' }] },
      },
      {
        code: 'frames',
        name: 'Frames',
        minimum: '20',
        multiple: '10',
        scope: { include: [{ kind: 'category', category: 'frames', descendants: true }] },
      },
      { code: 'off', name: 'Off', minimum: '99', state: 'off' },
    ],
  })
  const of = (account: string | null, variant: string) => {
    const buyer = account === null ? ({ kind: 'guest' } as const) : ({ kind: 'account', account } as const)
    const opened = openPricingContext(prepared, buyerContext(buyer, 0))
    if (!opened.ok) throw new Error(opened.error.code)
    return findLimits(prepared, opened.value, prepared.index.numberOf.get(variant) as number)
  }
  test('the nearer branch, then the nearer buyer; a product over every rule; each field by itself', () => {
    expect(of(null, 'HV').limits).toMatchObject({ minimum: '2', maximum: '500' })
    expect(of('fenn', 'HV').limits).toMatchObject({ minimum: '2', maximum: '500' })
    const frames = of(null, 'FR')
    expect(frames.limits).toMatchObject({ minimum: '20', maximum: '500', multiple: '5' })
    expect(frames.setBy).toEqual({
      minimum: { kind: 'rule', rule: 'frames' },
      maximum: { kind: 'rule', rule: 'all' },
      multiple: { kind: 'product' },
    })
  })
})

describe('limits nobody could keep', () => {
  const rule = (fields: object) => refusals({ limits: [{ code: 'r', name: 'R', ...fields }] })
  test.each([
    [{ minimum: '10', maximum: '5' }, 'min-above-max'],
    [{ minimum: '10', multiple: '4' }, 'not-a-multiple'],
    [{ maximum: '3', multiple: '4' }, 'max-below-multiple'],
    [{ maximum: '3', values: [{ quantity: '5', label: '' }] }, 'no-value-allowed'],
    [
      {
        values: [
          { quantity: '6', label: '' },
          { quantity: '3', label: '' },
        ],
      },
      'unsorted-breaks',
    ],
    [{}, 'no-limit'],
    [{ minimumValue: '50' }, 'only-together'],
    [{ counting: 'together', minimumValue: '50', maximumValue: '20' }, 'min-above-max'],
    [{ counting: 'together', maximum: '9', first: '1' }, 'not-together'],
    [{ minimum: '1', days: 30 }, 'missing'],
    [{ minimum: '0' }, 'not-above-zero'],
  ])('%j is refused: %s', (fields, code) => expect(rule(fields)[0]).toContain(code))

  test('a product’s own are checked alike', () =>
    expect(
      refusals({
        categories: [{ code: 'c', name: 'C' }],
        ...goods(['A', '1', 'c', { limits: { ...NO_LIMITS, minimum: '10' as Decimal, multiple: '4' } }]),
      }),
    ).toEqual(['products[0].limits.minimum: not-a-multiple']))
})
