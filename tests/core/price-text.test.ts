import { type Decimal, decimal } from '@/core/decimal/decimal'
import { marginPercent } from '@/core/price/margin'
import { breaksText, parseBreaksText } from '@/core/price/lines/breaks-text'
import type { Breaks } from '@/core/price/lines/price-method'
import { methodText, parseMethodText } from '@/core/price/lines/method-text'
import { evaluatePriceExpression, parsePriceExpression } from '@/core/price/price-expression'
import fc from 'fast-check'

function typed(text: string, current: string | null, cost: string | null = null): string {
  const parsed = parsePriceExpression(text)
  if (!parsed.ok) return parsed.error
  const value = evaluatePriceExpression(parsed.value, {
    current: current === null ? null : decimal(current),
    cost: cost === null ? null : decimal(cost),
    digits: 2,
  })
  return value.ok ? value.value : value.error
}

describe('a price typed over another', () => {
  test.each([
    ['an amount', '19.90', '25.00', '19.9'],
    ['blanks do not matter', ' 19.9 ', '25.00', '19.9'],
    ['percent up', '+5%', '25.90', '27.2'],
    ['percent down, a tie goes up', '-10%', '25.95', '23.36'],
    ['an amount down', '-2', '25.90', '23.9'],
    ['an amount up', '+0.50', '25.90', '26.4'],
    ['a factor', 'x1.2', '25.90', '31.08'],
    ['a real minus sign', '−2', '25.90', '23.9'],
    ['no change', '+0%', '25.90', '25.9'],
  ])('%s: %s over %s is %s', (_reason, text, current, expected) =>
    expect(typed(text, current)).toBe(expected),
  )

  // Source: textbook margin on price = cost ÷ (1 − margin), from memory, recomputed exactly (checks.md D50, D52).
  test.each([
    ['m40', '60.00', '100'],
    ['m35', '7.35', '11.31'],
  ])('%s on a cost of %s is %s', (text, cost, expected) => expect(typed(text, null, cost)).toBe(expected))

  test.each([
    ['12,5x', 'not-understood'],
    ['12,5', 'comma'],
    ['abc', 'not-understood'],
    ['1e3', 'not-understood'],
    ['50%', 'not-understood'],
    ['19.999', 'too-many-digits'],
    ['+0.001', 'too-many-digits'],
    ['0', 'not-positive'],
    ['-30', 'not-positive'],
    ['-100%', 'not-positive'],
    ['x0', 'not-positive'],
    ['m35', 'no-cost'],
  ])('%s is refused: %s', (text, error) => expect(typed(text, '25.90')).toBe(error))

  test('a change needs a price to start from', () => expect(typed('+5%', null)).toBe('no-current-price'))
  test('a margin of 100 % has no price', () => expect(typed('m100', null, '60')).toBe('margin-too-high'))

  test('what a margin gives earns that margin, to the cent it was rounded to', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 99 }),
        fc.integer({ min: 1000, max: 1_000_000 }),
        (margin, cents) => {
          const cost = decimal((cents / 100).toFixed(2))
          const price = typed(`m${margin}`, null, cost) as Decimal
          expect(Math.abs(Number(marginPercent(price, cost)) - margin)).toBeLessThanOrEqual(0.1)
        },
      ),
    )
  })
})

// Source: textbook table of markup and margin, from memory, recomputed exactly (checks.md D40–D47).
test.each([
  ['1.1', '1', '9.1'],
  ['1.25', '1', '20'],
  ['1.5', '1', '33.3'],
  ['2', '1', '50'],
  ['3', '1', '66.7'],
  ['4', '1', '75'],
  ['1', '2', '-100'],
])('a price of %s over a cost of %s has a margin of %s %%', (price, cost, margin) =>
  expect(marginPercent(decimal(price), decimal(cost))).toBe(margin),
)

describe('a rule as text', () => {
  test.each([
    ['-12%', { kind: 'percent', percent: '-12', reference: { kind: 'base' } }],
    ['+5.5%', { kind: 'percent', percent: '5.5', reference: { kind: 'base' } }],
    ['-0.60', { kind: 'amount', amount: '-0.6', reference: { kind: 'base' } }],
    ['17.60', { kind: 'fixed', amount: '17.6' }],
    ['-15% rrp', { kind: 'percent', percent: '-15', reference: { kind: 'recommended' } }],
    ['+2 cost', { kind: 'amount', amount: '2', reference: { kind: 'cost' } }],
    [
      '-3% @club-level',
      { kind: 'percent', percent: '-3', reference: { kind: 'list', list: 'id-club-level' } },
    ],
    ['cost +40%', { kind: 'markup', percent: '40' }],
    ['m35', { kind: 'margin', percent: '35' }],
  ] as const)('%s', (text, method) => {
    const findList = (code: string) => (code === 'club-level' ? `id-${code}` : null)
    expect(parseMethodText(text, findList)).toEqual(method)
    expect(
      parseMethodText(
        methodText(method as never, (id) => id.slice(3)),
        findList,
      ),
    ).toEqual(method)
  })
  test.each(['12%', 'ten', '1,5', '', '%', '-', '5 rrp', '-3% @nowhere'])('%p is not a rule', (text) =>
    expect(parseMethodText(text)).toBeNull(),
  )
})

describe('rules by quantity as text', () => {
  test.each([
    ['-12%', 1, 'variant', 'all-units'],
    ['-12%; 10: -15%; 50: 9.90', 3, 'variant', 'all-units'],
    ['5: -2 [all variants]', 1, 'product', 'all-units'],
    ['-5%; 10: -12% [together] [each bracket]', 2, 'line', 'graduated'],
  ] as const)('%s', (text, count, counting, pricing) => {
    const read = parseBreaksText(text)
    if (!read.ok) throw new Error(read.part)
    expect(read.value.breaks).toHaveLength(count)
    expect(read.value).toMatchObject({ counting, pricing })
    expect(parseBreaksText(breaksText(read.value as Breaks))).toEqual(read)
  })
  test('the part that is no rule is named', () =>
    expect(parseBreaksText('-12%; ten: -15%')).toEqual({ ok: false, part: 'ten: -15%' }))
})
