import { decimal } from '@/core/decimal/decimal'
import { prepare } from '@/core/engine/prepare'
import { lookUpPrice } from '@/core/engine/price-column'
import { fixPrice, listToEdit, releasePrice } from '@/core/price/fix-price'
import type { PriceLine } from '@/core/price/price-list'
import { applyChanges, type Change } from '@/core/store/store'
import { EVERY_VARIANT, randomStore } from '@tests/fixtures/random-store'
import fc from 'fast-check'

const line = (id: string, position: number, ...variants: string[]): PriceLine => ({
  id,
  list: 'level',
  position,
  scope: { include: variants.map((variant) => ({ kind: 'variant', variant })), exclude: [] },
  method: { kind: 'percent', percent: decimal(-5), reference: 'base' },
  rounding: null,
})
const fix = (lines: readonly PriceLine[]) => fixPrice(lines, 'a', decimal(9), { list: 'level', id: 'new' })

test('a line for the variant alone is changed in place', () => {
  const own = line('own', 3, 'a')
  expect(fix([line('other', 0, 'b'), own])).toEqual([
    { before: own, after: { ...own, method: { kind: 'fixed', amount: '9' } } },
  ])
})

test('otherwise one is added behind the last, and lines that name it among others let go of it', () => {
  const shared = line('shared', 4, 'a', 'b')
  expect(fix([shared])).toEqual([
    {
      before: shared,
      after: { ...shared, scope: { include: [{ kind: 'variant', variant: 'b' }], exclude: [] } },
    },
    { before: null, after: { ...line('new', 5, 'a'), method: { kind: 'fixed', amount: '9' } } },
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
  expect(releasePrice([own, line('shared', 1, 'a', 'b')], 'a')).toEqual([{ before: own, after: null }])
  expect(releasePrice([line('shared', 1, 'a', 'b')], 'a')).toEqual([])
})

test('an edit goes to the list that decides, else to the first of the buyer’s own', () => {
  const own = [{ id: 'agreed' }, { id: 'level' }]
  expect(listToEdit(own, 'level')).toBe(own[1])
  expect(listToEdit(own, 'somebody else’s')).toBe(own[0])
  expect(listToEdit([], null)).toBeUndefined()
})

test('in any list, a fixed price is the price that list gives, and other variants keep theirs', () => {
  fc.assert(
    fc.property(
      randomStore,
      fc.constantFrom(...EVERY_VARIANT),
      fc.integer({ min: 1, max: 99_999 }),
      (store, variant, cents) => {
        const [first] = store['price-list'].values()
        fc.pre(first !== undefined)
        // Alone and for everyone, so that what the list gives is what a guest pays.
        const list = {
          ...first,
          state: 'on' as const,
          audience: { include: [{ kind: 'everyone' as const }], exclude: [] },
        }
        const others = [...store['price-list'].values()].filter(({ id }) => id !== list.id)
        const alone = applyChanges(store, [
          { kind: 'price-list', id: list.id, before: first, after: list },
          ...others.map((other): Change => ({
            kind: 'price-list',
            id: other.id,
            before: other,
            after: { ...other, state: 'off' },
          })),
        ])
        const lines = [...alone['price-line'].values()].filter((each) => each.list === list.id)
        // An exclusion beats every inclusion of the same line: only the added line decides for the variant.
        const amount = decimal((cents / 100).toFixed(2))
        const changes = fixPrice(lines, variant, amount, { list: list.id, id: 'added' }).map(
          ({ before, after }) => ({ kind: 'price-line', id: (before ?? after)?.id, before, after }) as Change,
        )
        const fixed = prepare(applyChanges(alone, changes))
        const was = prepare(alone)
        const guest = { kind: 'guest' } as const
        expect(lookUpPrice(fixed, guest, variant)).toEqual({ unit: amount, list: list.id })
        for (const other of EVERY_VARIANT) {
          if (other !== variant)
            expect(lookUpPrice(fixed, guest, other)).toEqual(lookUpPrice(was, guest, other))
        }
      },
    ),
    { numRuns: 1000 },
  )
})
