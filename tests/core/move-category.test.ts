import {
  type Branch,
  changedAncestors,
  childrenOf,
  isLeftBehind,
  isWithin,
  movedTo,
  placeOf,
  stepped,
  type TreePlace,
  type TreeStep,
} from '@/core/catalogue/move-category'
import type { WhatTerm } from '@/core/predicates/what'
import fc from 'fast-check'

const branch = (id: string, parent: string | null, position: number): Branch => ({ id, parent, position })
const asMap = (branches: readonly Branch[]) => new Map(branches.map((each) => [each.id, each]))
const TREE = asMap([
  branch('hives', null, 0),
  branch('frames', null, 0),
  branch('brood', 'frames', 3),
  branch('super', 'frames', 5),
  branch('spare', 'super', 1),
])
const applied = (tree: ReadonlyMap<string, Branch>, id: string, place: TreePlace) =>
  new Map([...tree, ...movedTo(tree, id, place).map((each) => [each.id, each] as const)])
const names = (tree: ReadonlyMap<string, Branch>, parent: string | null) =>
  childrenOf(tree, parent).map(({ id }) => id)

test('a category moves under another one, and only what needs it is written', () => {
  expect(movedTo(TREE, 'spare', { parent: 'frames', before: 'super' })).toEqual([
    { id: 'brood', parent: 'frames', position: 0 },
    { id: 'spare', parent: 'frames', position: 1 },
    { id: 'super', parent: 'frames', position: 2 },
  ])
  expect(movedTo(TREE, 'brood', { parent: 'hives', before: null })).toEqual([
    { id: 'brood', parent: 'hives', position: 0 },
  ])
  expect(movedTo(TREE, 'brood', placeOf(TREE, 'brood'))).toEqual([])
})

test('categories at one position keep the order they have, until one of them moves', () => {
  expect(names(TREE, null)).toEqual(['hives', 'frames'])
  expect(names(applied(TREE, 'frames', { parent: null, before: 'hives' }), null)).toEqual(['frames', 'hives'])
})

test('nothing moves into itself, or beside what is not there', () => {
  expect(() => movedTo(TREE, 'frames', { parent: 'spare', before: null })).toThrow('inside itself')
  expect(() => movedTo(TREE, 'frames', { parent: 'frames', before: null })).toThrow('inside itself')
  expect(() => movedTo(TREE, 'spare', { parent: 'hives', before: 'brood' })).toThrow('does not hang there')
  expect(() => movedTo(TREE, 'spare', { parent: 'gone', before: null })).toThrow('no category gone')
})

test('steps go past siblings, out beside the parent, and into the sibling before', () => {
  const from = placeOf(TREE, 'super')
  expect(from).toEqual({ parent: 'frames', before: null })
  expect(stepped(TREE, 'super', from, 'down')).toBeNull()
  expect(stepped(TREE, 'super', from, 'up')).toEqual({ parent: 'frames', before: 'brood' })
  expect(stepped(TREE, 'super', { parent: 'frames', before: 'brood' }, 'in')).toBeNull()
  expect(stepped(TREE, 'super', from, 'in')).toEqual({ parent: 'brood', before: null })
  expect(stepped(TREE, 'super', from, 'out')).toEqual({ parent: null, before: null })
  expect(stepped(TREE, 'hives', placeOf(TREE, 'hives'), 'out')).toBeNull()
  // Out from a branch that itself stands where it was taken from.
  expect(stepped(TREE, 'frames', { parent: 'hives', before: null }, 'out')).toEqual({
    parent: null,
    before: null,
  })
})

const STEPS: readonly TreeStep[] = ['up', 'down', 'in', 'out']

test('any walk by steps ends in a tree with the same categories, where the walked one was put', () => {
  const tree = fc
    .array(fc.nat(20), { minLength: 2, maxLength: 12 })
    .map((picks) =>
      asMap(
        picks.map((pick, at) =>
          branch(`c${at}`, pick % (at + 1) === 0 ? null : `c${(pick % (at + 1)) - 1}`, pick % 3),
        ),
      ),
    )
  fc.assert(
    fc.property(
      tree,
      fc.nat(11),
      fc.array(fc.constantFrom(...STEPS), { maxLength: 12 }),
      (branches, pick, steps) => {
        const id = `c${pick % branches.size}`
        let place = placeOf(branches, id)
        for (const step of steps) {
          const next = stepped(branches, id, place, step)
          if (!next) continue
          expect(isWithin(branches, next.parent, id)).toBe(false)
          place = next
        }
        const after = applied(branches, id, place)
        expect(placeOf(after, id)).toEqual(place)
        expect([...after.keys()].sort()).toEqual([...branches.keys()].sort())
        // The order of all others is as it was.
        for (const parent of [null, ...branches.keys()]) {
          const rest = (from: ReadonlyMap<string, Branch>) =>
            names(from, parent).filter((each) => each !== id)
          expect(rest(after)).toEqual(rest(branches))
        }
      },
    ),
  )
})

test('a move leaves what is above it now and not then, and enters the opposite', () => {
  const { left, entered } = changedAncestors(TREE, 'spare', { parent: 'hives', before: null })
  expect([[...left].sort(), [...entered]]).toEqual([['frames', 'super'], ['hives']])
  // One level up only the nearest is left.
  expect(changedAncestors(TREE, 'spare', { parent: 'frames', before: null })).toEqual({
    left: new Set(['super']),
    entered: new Set(),
  })
})

test('a scope is left behind when it reaches the category from above alone', () => {
  const category = (id: string, descendants = true) =>
    ({ kind: 'category', category: id, descendants }) as const
  const isLeft = (include: readonly WhatTerm[], exclude: readonly WhatTerm[] = []) =>
    isLeftBehind({ include, exclude }, 'spare', new Set(['super']))
  expect(isLeft([category('super')])).toBe(true)
  expect(isLeft([{ kind: 'everything' }, category('super')])).toBe(true)
  expect(isLeft([category('super', false)])).toBe(false)
  expect(isLeft([category('super'), category('spare')])).toBe(false)
  expect(isLeft([category('super')], [category('spare')])).toBe(false)
  expect(isLeft([category('frames')])).toBe(false)
})
