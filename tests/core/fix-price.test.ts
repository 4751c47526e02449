import { decimal } from '@/core/decimal/decimal'
import { prepare } from '@/core/engine/prepare'
import { listPrices } from '@/core/engine/price/list-prices'
import { ONE_PIECE } from '@/core/engine/price/find-price'
import { openPricingContext } from '@/core/engine/price/open-pricing-context'
import { toPrice } from '@/core/engine/lists/price-step'
import { buyerContext } from '@/core/engine/context/buyer-context'
import { fixPrice, listToEdit, releasePrice } from '@/core/price/lines/fix-price'
import type { PriceLine } from '@/core/price/lines/price-list'
import { forAnyQuantity } from '@/core/price/lines/price-method'
import { EVERYTHING } from '@/core/predicates/what'
import { applyChanges, type Change, type Store } from '@/core/store/store'
import { EVERY_VARIANT, randomStore } from '@tests/fixtures/random-store'
import fc from 'fast-check'

const line = (id: string, position: number, ...variants: string[]): PriceLine => ({
  id,
  list: 'level',
  position,
  scope: { include: variants.map((variant) => ({ kind: 'variant', variant })), exclude: [] },
  schedule: null,
  rounding: null,
  ...forAnyQuantity({ kind: 'percent', percent: decimal(-5), reference: { kind: 'base' } }),
})
const ITEM = { kind: 'variant', variant: 'a' } as const
const fix = (lines: readonly PriceLine[]) =>
  fixPrice(lines, ITEM, decimal(9), {
    list: 'level',
    id: 'new',
    quantity: decimal(1),
  })

const FIXED = [{ from: '0', method: { kind: 'fixed', amount: '9' } }]

test('a line for the variant alone is changed in place', () => {
  const own = line('own', 3, 'a')
  expect(fix([line('other', 0, 'b'), own])).toEqual([{ before: own, after: { ...own, breaks: FIXED } }])
})

test('otherwise one is added behind the last, and lines that name it among others let go of it', () => {
  const shared = line('shared', 4, 'a', 'b')
  expect(fix([shared])).toEqual([
    {
      before: shared,
      after: { ...shared, scope: { include: [{ kind: 'variant', variant: 'b' }], exclude: [] } },
    },
    { before: null, after: { ...line('new', 5, 'a'), breaks: FIXED } },
  ])
})

test('of several lines for it alone the first asked is changed, and the others are gone', () => {
  const [later, first, shared] = [line('z', 7, 'a'), line('y', 2, 'a'), line('x', 1, 'a', 'b')]
  expect(
    fix([later, first, shared]).map(({ before, after }) => [before?.id, after?.scope.include.length ?? 0]),
  ).toEqual([
    ['z', 0],
    ['x', 1],
    ['y', 1],
  ])
})

test('a line left without anything to be for is gone', () => {
  const twice = { ...line('twice', 0, 'a', 'a') }
  expect(fix([twice])[0]).toEqual({ before: twice, after: null })
})

test('taking a price back removes the variant’s own line and nothing else', () => {
  const own = line('own', 0, 'a')
  expect(releasePrice([own, line('shared', 1, 'a', 'b')], ITEM)).toEqual([{ before: own, after: null }])
  expect(releasePrice([line('shared', 1, 'a', 'b')], ITEM)).toEqual([])
})

test('an edit goes to the list that decides, else to the first of the buyer’s own', () => {
  const own = [{ id: 'agreed' }, { id: 'level' }]
  expect(listToEdit(own, 'level')).toBe(own[1])
  expect(listToEdit(own, 'somebody else’s')).toBe(own[0])
  expect(listToEdit([], null)).toBeUndefined()
})

test('of several breaks the one the quantity reaches is changed; below the first one a break is added', () => {
  const method = { kind: 'percent', percent: decimal(-5), reference: { kind: 'base' } } as const
  const breaks = ['10', '50'].map((from) => ({ from: decimal(from), method }))
  const own: PriceLine = { ...line('own', 0, 'a'), breaks }
  const froms = (quantity: string) => {
    const [change] = fixPrice([own], ITEM, decimal(9), {
      list: 'level',
      id: 'new',
      quantity: decimal(quantity),
    })
    return change?.after?.breaks.map((each) => `${each.from} ${each.method.kind}`)
  }
  expect(froms('20')).toEqual(['10 fixed', '50 percent'])
  expect(froms('50')).toEqual(['10 percent', '50 fixed'])
  expect(froms('3')).toEqual(['0 fixed', '10 percent', '50 percent'])
})

test('in any list, a fixed price is the price that list gives, and other variants keep theirs', () => {
  fc.assert(
    fc.property(
      randomStore,
      fc.constantFrom(...EVERY_VARIANT),
      fc.integer({ min: 1, max: 99_999 }),
      (store, variant, cents) => {
        const [first] = store['price-list'].values()
        if (!first) throw new Error('no list')
        const list = { ...first, scope: EVERYTHING }
        const before = applyChanges(store, [{ kind: 'price-list', id: list.id, before: first, after: list }])
        const lines = [...before['price-line'].values()].filter((each) => each.list === list.id)
        // A line of a season keeps its season: only what holds always can be held against what was typed.
        fc.pre(lines.every(({ schedule, pricing }) => schedule === null && pricing === 'all-units'))
        const amount = decimal((cents / 100).toFixed(2))
        const changes = fixPrice(lines, { kind: 'variant', variant }, amount, {
          list: list.id,
          id: 'added',
          quantity: decimal(1),
        }).map(
          (change) => ({ kind: 'price-line', id: (change.before ?? change.after)?.id, ...change }) as Change,
        )
        const pricesOf = (some: Store) => {
          const prepared = prepare(some)
          const opened = openPricingContext(prepared, buyerContext({ kind: 'guest' }, AT))
          if (!opened.ok) throw new Error(opened.error.code)
          const found = listPrices(prepared, opened.value, list.id, ONE_PIECE)
          return (id: string) =>
            toPrice(found?.prices[prepared.index.numberOf.get(id) as number] as number, 2)
        }
        const was = pricesOf(before)
        const now = pricesOf(applyChanges(before, changes))
        expect(now(variant)).toBe(amount)
        for (const other of EVERY_VARIANT) if (other !== variant) expect(now(other)).toBe(was(other))
      },
    ),
    { numRuns: 500 },
  )
})

const AT = Date.parse('2027-03-24T11:00:00Z')
