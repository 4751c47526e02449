import { priceCart } from '@/core/cart/price-cart'
import { findMinorDigits } from '@/core/currency/iso-4217'
import { decimal, type Decimal, subtract, sum, ZERO } from '@/core/decimal/decimal'
import { roundToDigits } from '@/core/decimal/rounding'
import { inBasis, storeBasis } from '@/core/engine/amounts/basis'
import { answer } from '@/core/engine/ask'
import { priceColumn } from '@/core/engine/column/price-column'
import { buyerContext } from '@/core/engine/context/buyer-context'
import { fromUnits } from '@/core/engine/lists/price-step'
import { prepare } from '@/core/engine/prepare'
import { findPrice } from '@/core/engine/price/find-price'
import { openPricingContext } from '@/core/engine/price/open-pricing-context'
import { openItemPromotions } from '@/core/engine/promoted/item-promotions'
import { promotedColumn } from '@/core/engine/promoted/promoted-column'
import { promotedPrice } from '@/core/engine/promoted/promoted-price'
import { NO_FACTS, type PromotionFacts } from '@/core/promotions/facts'
import type { Promotion, Saving } from '@/core/promotions/promotion'
import { RECORD_DEFAULTS } from '@/core/store/record-defaults'
import type { Store } from '@/core/store/store'
import { money, promotion } from '@tests/fixtures/promoted-cart'
import { EVERY_BUYER, EVERY_VARIANT, INSTANTS, randomStore, what } from '@tests/fixtures/random-store'
import { goods, writtenPrepared } from '@tests/fixtures/written-store'
import fc from 'fast-check'

const amount = fc.integer({ min: 1, max: 3000 }).map((cents) => decimal((cents / 100).toFixed(2)))
const saving: fc.Arbitrary<Saving> = fc.oneof(
  fc
    .constantFrom('5', '12.5', '33', '100')
    .map((percent) => ({ kind: 'percent', percent: decimal(percent) })),
  amount.map((each) => ({ kind: 'amount', amount: { amount: each, own: {} } })),
  amount.map((each) => ({ kind: 'price', price: { amount: each, own: { GBP: decimal('7.77') } } })),
) as fc.Arbitrary<Saving>

const promotions: fc.Arbitrary<readonly Promotion[]> = fc
  .array(
    fc.record({
      saving,
      closes: fc.boolean(),
      scope: what,
      rank: fc.integer({ min: 1, max: 2 }),
      combines: fc.constantFrom('', 'together'),
      rounding: fc.constantFrom(null, { kind: 'step', step: decimal('0.05'), mode: 'half-up' } as const),
    }),
    { minLength: 1, maxLength: 4 },
  )
  .map((drawn) =>
    drawn.map(({ saving: each, closes, ...rest }, at) => ({
      ...RECORD_DEFAULTS.promotion,
      id: `offer-${at}`,
      code: `offer-${at}`,
      name: `Offer ${at}`,
      state: 'on',
      value: { kind: 'item-price', saving: each, closes },
      ...rest,
    })),
  ) as unknown as fc.Arbitrary<readonly Promotion[]>

function withPromotions(store: Store, some: readonly Promotion[]): Store {
  return { ...store, promotion: new Map(some.map((each) => [each.id, each])) }
}

function contextOf(prepared: ReturnType<typeof prepare>, buyer: (typeof EVERY_BUYER)[number], at: number) {
  const opened = openPricingContext(prepared, buyerContext(buyer, at))
  if (!opened.ok) throw new Error(opened.error.code)
  return opened.value
}

test('the price shown for an item by itself is what a cart with one piece of it comes to', () => {
  fc.assert(
    fc.property(
      randomStore,
      promotions,
      fc.constantFrom(...EVERY_BUYER),
      fc.constantFrom(...INSTANTS),
      (store, some, buyer, at) => {
        const prepared = prepare(withPromotions(store, some))
        const pricingContext = contextOf(prepared, buyer, at)
        if (findMinorDigits(pricingContext.currency) !== pricingContext.digits) return
        const open = openItemPromotions(prepared, pricingContext, at, NO_FACTS)
        for (const variant of EVERY_VARIANT) {
          const cart = priceCart(prepared, {
            ...buyerContext(buyer, at),
            lines: [{ variant, quantity: decimal(1), extras: [] }],
            past: [],
          })
          if (!cart.ok) throw new Error(cart.error.code)
          if (!cart.value.lines[0]?.access.buy || cart.value.lines[0].unit === null) continue
          const number = prepared.index.numberOf.get(variant) as number
          const found = findPrice(prepared, pricingContext, number)
          const { digits, currencyView } = pricingContext
          const before = roundToDigits(
            inBasis(
              prepared,
              currencyView,
              number,
              { amount: fromUnits(found.units, digits), basis: found.basis },
              storeBasis(prepared),
            ),
            digits,
            'half-up',
          )
          const promoted = promotedPrice(open, number, found)
          const paid = subtract(before, sum(cart.value.promotions.applied.map((each) => each.saving)))
          expect(promoted ? fromUnits(promoted.units, digits) : before).toBe(paid)
          const applied = cart.value.promotions.applied.map((each) => each.promotion)
          expect(promoted?.by.map(({ promotion: { id } }) => id) ?? []).toEqual(applied)
        }
      },
    ),
    { numRuns: 150 },
  )
})

test('a column of promoted prices says what each price says', () => {
  fc.assert(
    fc.property(
      randomStore,
      promotions,
      fc.constantFrom(...EVERY_BUYER),
      fc.constantFrom(...INSTANTS),
      (store, some, buyer, at) => {
        const prepared = prepare(withPromotions(store, some))
        const pricingContext = contextOf(prepared, buyer, at)
        const open = openItemPromotions(prepared, pricingContext, at, NO_FACTS)
        const column = promotedColumn(open, priceColumn(prepared, pricingContext, 1000))
        for (let number = 0; number < column.prices.length; number += 1) {
          const found = findPrice(prepared, pricingContext, number)
          const promoted = promotedPrice(open, number, found)
          expect(column.prices[number]).toBe(promoted?.units ?? found.units)
          expect(column.by[number]).toBe(promoted?.by.length ?? 0)
        }
      },
    ),
    { numRuns: 100 },
  )
})

const AT = Date.parse('2027-03-01T12:00:00Z')

/** What guests pay for goods of 10.00, under promotions as they stand in a document. */
function shown(
  written: readonly Record<string, unknown>[],
  { facts = {}, sections = {} }: { facts?: Partial<PromotionFacts>; sections?: object } = {},
): Decimal | null {
  const prepared = writtenPrepared({
    categories: [{ code: 'c', name: 'C' }],
    ...goods(['g', '10.00', 'c']),
    promotions: written,
    ...sections,
  })
  const pricingContext = contextOf(prepared, { kind: 'guest' }, AT)
  const open = openItemPromotions(prepared, pricingContext, AT, { ...NO_FACTS, ...facts })
  const number = prepared.index.numberOf.get('g') as number
  const promoted = promotedPrice(open, number, findPrice(prepared, pricingContext, number))
  return promoted && fromUnits(promoted.units, pricingContext.digits)
}

const tenth = { kind: 'item-price', saving: { kind: 'percent', percent: '10' }, closes: false }

test('only what holds whatever else is bought changes the price of an item', () => {
  expect(shown([promotion(tenth)])).toBe('9')
  expect(shown([promotion(tenth, { isOffer: true })])).toBeNull()
  const fromFifty = { kind: 'value', from: money('50'), of: 'cart' }
  expect(shown([promotion(tenth, { conditions: [fromFifty] })])).toBeNull()
  expect(shown([promotion(tenth, { state: 'off' })])).toBeNull()
})

test('what the buyer has said and done counts: codes, orders, and how often it was used', () => {
  const withCode = promotion(tenth, { conditions: [{ kind: 'code', code: 'SWARM' }] })
  expect(shown([withCode])).toBeNull()
  expect(shown([withCode], { facts: { codes: [' swarm '] } })).toBe('9')
  const first = promotion(tenth, { conditions: [{ kind: 'first-order' }] })
  expect(shown([first], { facts: { pastOrders: [] } })).toBe('9')
  expect(shown([first], { facts: { pastOrders: [{ at: AT, value: ZERO }] } })).toBeNull()
  const twice = promotion(tenth, { uses: { total: 2, perBuyer: null, perOrder: null, perDay: null } })
  const used = (total: number) => ({ facts: { uses: { offer: { total, byBuyer: 0, today: 0 } } } })
  expect(shown([twice], used(1))).toBe('9')
  expect(shown([twice], used(2))).toBeNull()
})

// Common practice, no source: 10 % and then a further 5 % on what is left is 14.5 % together.
test('one after the other they take off what is left, unless the first keeps others away', () => {
  const fifth = { kind: 'item-price', saving: { kind: 'percent', percent: '5' }, closes: false }
  const [first, second] = [
    promotion(tenth, { code: 'first', rank: 1 }),
    promotion(fifth, { code: 'second', rank: 2 }),
  ]
  expect(shown([first, second])).toBe('8.55')
  expect(shown([promotion({ ...tenth, closes: true }, { code: 'first', rank: 1 }), second])).toBe('9')
})

test('a floor is the least it comes to', () => {
  const half = { kind: 'item-price', saving: { kind: 'percent', percent: '50' }, closes: false }
  const { products, variants } = goods(['g', '10.00', 'c', { floor: '6.50' }])
  expect(shown([promotion(half)], { sections: { products, variants } })).toBe('6.5')
})

test('a promotion ends when it ends, for whoever has looked before', () => {
  const over = promotion(tenth, { schedule: { to: '2027-03-02T00:00' } })
  const prepared = writtenPrepared({
    categories: [{ code: 'c', name: 'C' }],
    groups: [{ code: 'club', name: 'Club' }],
    ...goods(['g', '10.00', 'c']),
    promotions: [over],
  })
  const number = prepared.index.numberOf.get('g') as number
  const club = { kind: 'group', group: [...prepared.store.group.keys()][0] as string } as const
  const unitsAt = (at: number) => {
    // Kept from one instant to the next: no list of theirs starts or ends between.
    const pricingContext = contextOf(prepared, club, at)
    const found = findPrice(prepared, pricingContext, number)
    return promotedPrice(openItemPromotions(prepared, pricingContext, at, NO_FACTS), number, found)?.units
  }
  expect([unitsAt(AT), unitsAt(AT + 2 * 86_400_000), unitsAt(AT)]).toEqual([900, undefined, 900])
})

test('under graduated prices the whole comes to what a cart with it comes to', () => {
  const each = (from: string, amount: string) => ({ from, method: { kind: 'fixed', amount } })
  const prepared = writtenPrepared({
    categories: [{ code: 'c', name: 'C' }],
    ...goods(['g', '0.20', 'c']),
    priceLists: [
      {
        code: 'L',
        name: 'L',
        purpose: 'level',
        currency: 'EUR',
        state: 'on',
        audience: { include: [{ kind: 'everyone' }], exclude: [] },
        defaultLine: {
          breaks: [each('0', '0.10'), each('500', '0.09')],
          counting: 'variant',
          pricing: 'graduated',
        },
      },
    ],
    promotions: [promotion(tenth)],
  })
  const quantity = decimal(1000)
  const from = buyerContext({ kind: 'guest' }, AT)
  const asked = answer(prepared, { ...from, variant: 'g', quantity, extras: [], basket: [] })
  const cart = priceCart(prepared, { ...from, lines: [{ variant: 'g', quantity, extras: [] }], past: [] })
  if (!asked.ok || !cart.ok) throw new Error('not priced')
  // 499 at 0.10 and 501 at 0.09 are 94.99; a tenth off each 0.09499 is 0.085491, and rounded 0.09.
  expect(asked.value.total).toBe('94.99')
  expect(cart.value.goods.net).toBe('90')
  expect(asked.value.promoted?.total).toBe('90')
})
