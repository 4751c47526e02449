import type { Cart } from '@/core/cart/cart'
import { add, compare, type Decimal, decimal, subtract, sum, toFixed, ZERO } from '@/core/decimal/decimal'
import { money, type PricedAt, promotedCart, promotion } from '@tests/fixtures/promoted-cart'
import { Rational } from '@tests/reference/rational'
import { goods, TWO_RATES } from '@tests/fixtures/written-store'
import { bestSaving, type SavingOfSet } from '@tests/reference/reference-sets'
import fc from 'fast-check'

const cents = (from: number, to: number) =>
  fc.integer({ min: from, max: to }).map((each) => (each / 100).toFixed(2))
const lines: fc.Arbitrary<PricedAt> = fc.array(
  fc.tuple(
    fc.integer({ min: 1, max: 24 }).map((each) => (each / 2).toFixed(2)),
    fc.integer({ min: 1, max: 2 }),
  ),
  { minLength: 1, maxLength: 4 },
)
const some = fc.uniqueArray(fc.integer({ min: 0, max: 3 }), { minLength: 1, maxLength: 4 })
const only = (places: readonly number[]) => ({
  include: places.map((at) => ({ kind: 'variant', variant: `g${at}` })),
  exclude: [],
})

/** A set price is drawn as a share of what the dearest set costs: one above it is refused when it is set. */
interface DrawnSaving {
  readonly kind: string
  readonly share?: number
}
const setSaving: fc.Arbitrary<DrawnSaving> = fc.oneof(
  fc.integer({ min: 1, max: 99 }).map((share) => ({ kind: 'price', share })),
  fc.constantFrom('5', '12.5', '100').map((percent) => ({ kind: 'percent', percent })),
  // Less than the cheapest set costs: more is cut to what a set is worth, in the sets as they are formed.
  cents(10, 99).map((amount) => ({ kind: 'amount', amount: money(amount) })),
)

/** A drawn saving as it is set, for parts of so many units of some lines each. */
function savingOn(
  cart: PricedAt,
  drawn: DrawnSaving,
  parts: readonly { readonly count: number; readonly of: readonly number[] }[],
): { kind: string } {
  if (drawn.share === undefined) return drawn
  const dearest = (of: readonly number[]) => Math.max(...of.map((at) => Number(cart[at]?.[0] ?? 0)))
  const most = parts.reduce((total, { count, of }) => total + count * dearest(of), 0)
  return { kind: 'price', price: money(Math.max(0.01, (most * drawn.share) / 100).toFixed(2)) } as {
    kind: string
  }
}

/** What a set saves, written for the reference alone. */
function savingOf(saving: {
  kind: string
  price?: { amount: string }
  percent?: string
  amount?: { amount: string }
  count?: number
}): SavingOfSet {
  return (prices) => {
    const whole = prices.reduce((total, price) => total.plus(price), Rational.of(0))
    if (saving.kind === 'price') return whole.minus(saving.price?.amount ?? '0')
    if (saving.kind === 'percent') return whole.times(saving.percent ?? '0').div(100)
    if (saving.kind === 'amount') {
      const off = Rational.of(saving.amount?.amount ?? '0')
      return off.lt(whole) ? off : whole
    }
    const rising = [...prices].sort((one, other) => one.cmp(other))
    return rising.slice(0, saving.count).reduce((total, price) => total.plus(price), Rational.of(0))
  }
}

function unitsOf(cart: PricedAt) {
  return cart.flatMap(([price, quantity], line) =>
    Array.from({ length: quantity }, () => ({ price: Rational.of(price), line })),
  )
}

function rounded(value: Rational): string {
  return toFixed(decimal(roundHalfUp(value)), 2)
}

/** To cents, half up; the value is not negative. */
function roundHalfUp({ n, d }: Rational): string {
  const hundredths = (n * 200n + d) / (d * 2n)
  return `${hundredths / 100n}.${String(hundredths % 100n).padStart(2, '0')}`
}

const savedBy = ({ promotions }: Cart): Decimal => sum(promotions.applied.map(({ saving }) => saving))

describe('a single set promotion saves what the best of all assignments saves', () => {
  test('any so many of what it is for', () => {
    fc.assert(
      fc.property(
        lines,
        fc.integer({ min: 2, max: 3 }),
        setSaving,
        some,
        fc.option(fc.integer({ min: 1, max: 2 })),
        (cart, count, drawn, places, perOrder) => {
          const of = [...new Set([...places.filter((at) => at < cart.length), 0])]
          const saving = savingOn(cart, drawn, [{ count, of }])
          const uses = { total: null, perBuyer: null, perOrder, perDay: null }
          const value = { kind: 'set', parts: [{ count, scope: null }], saving }
          const saved = savedBy(promotedCart(cart, [promotion(value, { scope: only(of), uses })]))
          const units = unitsOf(cart).filter(({ line }) => of.includes(line))
          const best = bestSaving(
            units.map(({ price }) => price),
            units.map(() => [true]),
            [count],
            savingOf(saving),
            perOrder ?? units.length,
          )
          expect(toFixed(saved, 2)).toBe(rounded(best))
        },
      ),
      { numRuns: 300 },
    )
  })

  test('the cheapest of each free', () => {
    fc.assert(
      fc.property(
        lines,
        fc.integer({ min: 2, max: 4 }),
        fc.integer({ min: 1, max: 3 }),
        (cart, count, free) => {
          fc.pre(free < count)
          const saving = { kind: 'cheapest-free', count: free }
          const saved = savedBy(
            promotedCart(cart, [promotion({ kind: 'set', parts: [{ count, scope: null }], saving })]),
          )
          const units = unitsOf(cart)
          const prices = units.map(({ price }) => price)
          const best = bestSaving(
            prices,
            units.map(() => [true]),
            [count],
            savingOf(saving),
            units.length,
          )
          expect(toFixed(saved, 2)).toBe(rounded(best))
        },
      ),
      { numRuns: 200 },
    )
  })

  test('parts of what may be the same', () => {
    fc.assert(
      fc.property(
        lines,
        some,
        some,
        fc.integer({ min: 1, max: 2 }),
        setSaving,
        (cart, first, second, count, drawn) => {
          const within = (places: readonly number[]) => [...new Set(places.map((at) => at % cart.length))]
          const scopes = [within(first), within(second)] as const
          const parts = [
            { count: 1, scope: only(scopes[0]) },
            { count, scope: only(scopes[1]) },
          ]
          const saving = savingOn(cart, drawn, [
            { count: 1, of: scopes[0] },
            { count, of: scopes[1] },
          ])
          const saved = savedBy(promotedCart(cart, [promotion({ kind: 'set', parts, saving })]))
          const units = unitsOf(cart)
          const best = bestSaving(
            units.map(({ price }) => price),
            units.map(({ line }) => scopes.map((scope) => scope.includes(line))),
            [1, count],
            savingOf(saving),
            units.length,
          )
          expect(toFixed(saved, 2)).toBe(rounded(best))
        },
      ),
      { numRuns: 300 },
    )
  })
})

const anySaving = fc.oneof(
  fc.constantFrom('5', '33.3333', '100').map((percent) => ({ kind: 'percent', percent })),
  cents(10, 900).map((amount) => ({ kind: 'amount', amount: money(amount) })),
)
const value: fc.Arbitrary<DrawnValue> = fc.oneof(
  fc.record({ kind: fc.constant('item-price'), saving: anySaving, closes: fc.boolean() }),
  fc.record({
    kind: fc.constant('by-quantity'),
    from: fc.constantFrom('1', '2', '3'),
    applies: fc.constantFrom('all', 'above'),
    saving: anySaving,
  }),
  fc.record({
    kind: fc.constant('set'),
    parts: fc.constantFrom([{ count: 2, scope: null }], [{ count: 3, scope: null }]),
    saving: fc.oneof(setSaving, fc.constant({ kind: 'cheapest-free', count: 1 })),
  }),
  fc.record({
    kind: fc.constant('free-goods'),
    brackets: fc.constant([{ from: 2, free: 1 }]),
    gift: fc.constantFrom('same', 'bought'),
    repeats: fc.boolean(),
  }),
  fc.record({
    kind: fc.constant('order'),
    brackets: anySaving.map((saving) => [{ from: null, saving }]),
  }),
)
const promotions = fc.array(fc.tuple(value, some, fc.integer({ min: 1, max: 3 }), fc.constantFrom('', 'a')), {
  minLength: 1,
  maxLength: 4,
})

interface DrawnValue {
  readonly kind: string
  readonly closes?: boolean
  readonly parts?: readonly { readonly count: number }[]
  readonly saving?: DrawnSaving
}
type Drawn = readonly [DrawnValue, readonly number[], number, string]

function valueOn(cart: PricedAt, each: DrawnValue, of: readonly number[]): object {
  if (!each.parts || !each.saving) return each
  const parts = each.parts.map(({ count }) => ({ count, of }))
  return { ...each, saving: savingOn(cart, each.saving, parts) }
}

function written(drawn: readonly Drawn[], cart: PricedAt) {
  return drawn.map(([each, places, rank, combines], at) => {
    const of = [...new Set(places.map((place) => place % cart.length))]
    return promotion(valueOn(cart, each, of), { code: `p${at}`, rank, combines, scope: only(of) })
  })
}

describe('whatever promotions there are', () => {
  test('lines add up, nothing is below zero, and no more is saved than there is', () => {
    fc.assert(
      fc.property(lines, promotions, (cart, drawn) => {
        const priced = promotedCart(cart, written(drawn, cart))
        const before = sum(priced.lines.map((line) => line.before ?? ZERO))
        const paid = sum(priced.lines.map(({ amount }) => amount?.gross ?? ZERO))
        expect(priced.total.gross).toBe(paid)
        expect(subtract(before, savedBy(priced))).toBe(paid)
        for (const { before: whole, amount, discounts } of priced.lines) {
          expect(compare(amount?.gross ?? ZERO, ZERO)).toBeGreaterThanOrEqual(0)
          expect(add(amount?.gross ?? ZERO, sum(discounts.map(({ saving }) => saving)))).toBe(whole)
          for (const { saving } of discounts) expect(compare(saving, ZERO)).toBe(1)
        }
        for (const { saving, lines: parts } of priced.promotions.applied) {
          expect(compare(saving, ZERO)).toBe(1)
          expect(sum(parts.map((part) => part.saving))).toBe(saving)
        }
      }),
      { numRuns: 300 },
    )
  })

  test('no unit is in two promotions that close it', () => {
    fc.assert(
      fc.property(lines, promotions, (cart, drawn) => {
        const alone = drawn.map(([each, places, rank]) => [each, places, rank, ''] as const)
        const priced = promotedCart(cart, written(alone, cart))
        const closing = priced.promotions.applied.filter(({ promotion: id }) => {
          const { kind, closes } = alone[Number(id.slice(1))]?.[0] as { kind: string; closes?: boolean }
          return kind !== 'order' && (kind !== 'item-price' || closes)
        })
        cart.forEach(([, quantity], line) => {
          const taken = closing.flatMap((each) => each.lines.filter((part) => part.line === line))
          expect(compare(sum(taken.map((part) => part.quantity)), decimal(quantity))).toBeLessThanOrEqual(0)
        })
      }),
      { numRuns: 300 },
    )
  })

  test('one more of the lowest priority changes nothing of what the others took', () => {
    fc.assert(
      fc.property(lines, promotions, value, (cart, drawn, last) => {
        const own = written(drawn, cart)
        const before = promotedCart(cart, own).promotions.applied
        const after = promotedCart(cart, [
          ...own,
          promotion(valueOn(cart, last, [...cart.keys()]), { code: 'zz', rank: 9 }),
        ]).promotions.applied
        const kindOf = (id: string) => (drawn[Number(id.slice(1))]?.[0] as { kind: string } | undefined)?.kind
        // Prices of items come first, whatever their priority: what stands behind them looks at what they leave.
        const isBefore = (id: string) =>
          (last as { kind: string }).kind !== 'item-price' || kindOf(id) === 'item-price'
        const isSame = (id: string) =>
          isBefore(id) && ((last as { kind: string }).kind === 'order' || kindOf(id) !== 'order')
        const seen = (all: typeof before) =>
          all
            .filter(({ promotion: id }) => id !== 'zz' && isSame(id))
            .map(({ promotion: id, saving, lines: parts }) => [
              id,
              saving,
              parts.filter(({ line }) => line < cart.length),
            ])
        expect(seen(after)).toEqual(seen(before))
      }),
      { numRuns: 300 },
    )
  })

  test('the order of the lines does not change the total', () => {
    fc.assert(
      fc.property(lines, promotions, (cart, drawn) => {
        const own = written(drawn, cart)
        const asked = cart.map(([, quantity], at) => ({
          variant: `g${at}`,
          quantity: decimal(quantity),
          extras: [],
        }))
        const turned = promotedCart(cart, own, { lines: [...asked].reverse() })
        expect(turned.total).toEqual(promotedCart(cart, own, { lines: asked }).total)
      }),
      { numRuns: 300 },
    )
  })
})

test('whoever sends back every line gets back exactly what was paid, with its taxes', () => {
  fc.assert(
    fc.property(lines, cents(10, 2000), fc.constantFrom('5', '12.5', '33'), (cart, voucher, percent) => {
      const { products, variants } = goods(
        ...cart.map(([price], at): [string, string, string, object] => [
          `g${at}`,
          price,
          'c',
          { taxClass: at % 2 === 0 ? 'standard' : 'reduced' },
        ]),
      )
      const priced = promotedCart(
        cart,
        [
          promotion({
            kind: 'order',
            brackets: [{ from: null, saving: { kind: 'amount', amount: money(voucher) } }],
          }),
          promotion(
            { kind: 'item-price', saving: { kind: 'percent', percent }, closes: false },
            { code: 'each', scope: only([0]) },
          ),
        ],
        { sections: { ...TWO_RATES, products, variants } },
      )
      for (const part of ['net', 'tax', 'gross'] as const) {
        const refunded = sum(priced.lines.map(({ amount }) => amount?.[part] ?? ZERO))
        expect(refunded).toBe(priced.goods[part])
        expect(sum([refunded, priced.delivery[part], priced.payment[part]])).toBe(priced.total[part])
      }
      const taxes = sum(priced.taxes.map(({ amount }) => amount))
      expect(taxes).toBe(priced.total.tax)
    }),
    { numRuns: 100 },
  )
})
