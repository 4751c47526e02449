import { type Decimal, decimal, multiply, subtract } from '@/core/decimal/decimal'
import { toFraction } from '@/core/decimal/fraction'
import { roundToDigits } from '@/core/decimal/rounding'
import { ask } from '@/core/engine/ask'
import {
  compose,
  IDENTITY,
  methodOperation,
  type Operation,
  percentFactor,
  scaling,
} from '@/core/engine/lists/operation'
import { prepare } from '@/core/engine/prepare'
import { buyerContext } from '@/core/engine/context/buyer-context'
import { breakEvenPercent } from '@/core/price/margin'
import type { BreakPricing, PriceMethod } from '@/core/price/lines/price-method'
import { readDocument } from '@/server/exchange/store-document'

const UNITS = { source: 0, target: 0 }

function apply({ numerator, addend, denominator }: Operation, amount: string, digits: number): Decimal {
  const value = toFraction(decimal(amount))
  return roundToDigits(
    {
      numerator: value.numerator * numerator + addend * value.denominator,
      denominator: value.denominator * denominator,
    },
    digits,
    'half-up',
  )
}

const chain = (discounts: readonly string[]) =>
  discounts.reduce<Operation>(
    (before, percent) =>
      compose(before, scaling(percentFactor(subtract('0' as Decimal, decimal(percent))), UNITS)),
    IDENTITY,
  )

// Source: commercial mathematics textbooks, series discounts (20/10/5 is 31.6 %), from memory, recomputed exactly
// (checks.md D1–D6, D8, D10).
test.each([
  [['20', '10', '5'], '0.684'],
  [['5', '10', '20'], '0.684'],
  [['10', '5'], '0.855'],
  [['30', '10'], '0.63'],
  [['40', '20', '10'], '0.432'],
  [['25', '15', '10'], '0.57375'],
  [['50', '50'], '0.25'],
  [['10', '-5'], '0.945'],
])('discounts of %p in a chain leave %s', (discounts, factor) =>
  expect(apply(chain(discounts), '1', 8)).toBe(factor),
)

// Source: own inputs: a chain is one step and is rounded once (checks.md D20–D24).
test.each([
  ['100.00', ['20', '10', '5'], '68.4'],
  ['1.08', ['20', '10', '5'], '0.74'],
  ['1.17', ['20', '10', '5'], '0.8'],
  ['1249.99', ['40', '10', '10'], '607.5'],
  ['1.06', ['10', '5'], '0.91'],
])('%s less %p is %s', (list, discounts, net) => expect(apply(chain(discounts), list, 2)).toBe(net))

// Source: textbook markup and margin (keystone: markup 100 % is margin 50 %), own inputs (checks.md D50–D53).
test.each([
  ['60.00', 'margin', '40', '100'],
  ['60.00', 'markup', '40', '84'],
  ['7.35', 'margin', '35', '11.31'],
  ['12.40', 'markup', '62.5', '20.15'],
  ['1', 'markup', '100', '2'],
  ['1', 'margin', '50', '2'],
  ['1', 'margin', '75', '4'],
] as const)('a cost of %s with a %s of %s %% is %s', (cost, kind, percent, price) => {
  const method: PriceMethod = { kind, percent: decimal(percent) }
  expect(apply(methodOperation(method, UNITS), cost, 2)).toBe(price)
})

function answer(
  method: readonly (readonly [from: string, amount: string])[],
  pricing: BreakPricing,
  quantity: string,
) {
  const read = readDocument({
    format: 'steppe-store',
    version: 1,
    settings: { currency: 'EUR' },
    categories: [{ code: 'bags', name: 'Bags' }],
    products: [{ code: 'BAG', name: 'Bag', categories: ['bags'], basePrice: '99' }],
    variants: [{ sku: 'BAG-1', product: 'BAG' }],
    priceLists: [{ code: 'list', name: 'List' }],
    priceLines: [
      {
        id: 'line',
        list: 'list',
        scope: { include: [{ kind: 'everything' }] },
        pricing,
        breaks: method.map(([from, amount]) => ({ from, method: { kind: 'fixed', amount } })),
      },
    ],
  })
  if (!read.ok) throw new Error(JSON.stringify(read.errors))
  const asked = ask(prepare(read.store), {
    ...buyerContext({ kind: 'guest' }, 0),
    variant: 'BAG-1',
    quantity: decimal(quantity),
    extras: [],
    basket: [],
  })
  if (!asked.ok) throw new Error(asked.error.code)
  return asked.value
}

// Source: own inputs, the lower price from the break's own unit on (checks.md T7–T10); T1, T3 all units from
// S. Nahmias, Production and Operations Analysis, Weighty Trash Bag Company, from memory.
const SCHEDULE = [
  ['1', '10.00'],
  ['10', '9.00'],
  ['50', '7.50'],
] as const
const BAGS = [
  ['1', '0.30'],
  ['500', '0.29'],
  ['1000', '0.28'],
] as const
test.each([
  [SCHEDULE, '9', '90', '90', '10'],
  [SCHEDULE, '10', '90', '99', '9.9'],
  [SCHEDULE, '49', '441', '450', '9.18'],
  [SCHEDULE, '50', '375', '457.5', '9.15'],
  [BAGS, '400', '120', '120', '0.3'],
  [BAGS, '500', '145', '149.99', '0.3'],
  [BAGS, '1200', '336', '350.98', '0.29'],
])(
  '%j for %s: all units %s, graduated %s at %s on average',
  (schedule, quantity, all, graduated, average) => {
    const whole = answer(schedule, 'all-units', quantity)
    expect(whole.total).toBe(all)
    expect(multiply(whole.unit as Decimal, decimal(quantity))).toBe(all)
    const parts = answer(schedule, 'graduated', quantity)
    expect(parts.total).toBe(graduated)
    expect(parts.unit).toBe(average)
  },
)

// Source: T. Nagle and R. Holden, “The Strategy and Tactics of Pricing”, financial analysis (checks.md D60–D67; from
// memory, recomputed).
test.each([
  ['D60 a cut of 5 % at Westside Manufacturing', '4.50', '4.00', '12.5'],
  ['D61 the same with a cost that falls', '4.50', '4.22', '6.6'],
  ['D62', '30', '20', '50'],
  ['D63', '30', '25', '20'],
  ['D64 a rise may cost a quarter of the sales', '30', '40', '-25'],
  ['D65', '40', '30', '33.3'],
  ['D66', '20', '10', '100'],
  ['D67', '50', '55', '-9.1'],
  ['what leaves nothing cannot break even', '10', '0', null],
])('breakeven change of volume, %s', (_, before, after, percent) => {
  expect(breakEvenPercent(decimal(before), decimal(after))).toBe(percent)
})
