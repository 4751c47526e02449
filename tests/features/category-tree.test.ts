import { isWithin } from '@/core/catalogue/move-category'
import { linesLeft } from '@/features/catalogue/categories/category-move'
import { loadCategoryTree } from '@/features/catalogue/categories/load-category-tree'
import { loadMoveEffect } from '@/features/catalogue/categories/load-move-effect'
import { moveFromUrl, moveToUrl } from '@/features/catalogue/categories/move-in-url'
import type { CategoryTreeView, PendingMove } from '@/features/catalogue/categories/category-tree-view'
import { lookAs, store } from '@tests/fixtures/demo-request'
import fc from 'fast-check'

const guest = lookAs('guest')
const idOf = (code: string) => `category-${code}`
/** Nuclei hang on Livestock, which hangs on Queens and nuclei. */
const UP: PendingMove = {
  id: idOf('nuclei'),
  place: { parent: idOf('queens'), before: null },
  keepsPrices: false,
}
let view: CategoryTreeView
beforeAll(async () => {
  view = await loadCategoryTree(guest, new URLSearchParams())
})
const category = (code: string) => view.categories.find((each) => each.code === code)

test('each category tells what is in it and which rules name it', () => {
  expect(category('livestock')).toMatchObject({ variants: 14, filed: 1 })
  expect(category('nuclei')).toMatchObject({ variants: 6, filed: 2 })
  expect(category('clothing')?.rules.adjustments).toEqual({
    shown: [{ name: 'November week', href: '/adjustments/november-week', isOut: false }],
    more: 0,
  })
  // So many would not fit: the first is named, and the others are counted.
  expect(category('livestock')?.rules.lists).toMatchObject({ shown: [{ name: 'Club level' }], more: 3 })
  expect(category('stands')?.rules.lists).toEqual({ shown: [], more: 0 })
  expect(category('syrup')?.taxClass).toBe('Reduced')
  expect(category('hives')?.taxClass).toBe('')
  expect(view.inTwo).toHaveLength(22)
})

test('a move tells whose prices it would change before it is made, and what no longer reaches it', async () => {
  const effect = await loadMoveEffect(guest, UP)
  expect(effect).toMatchObject({
    refusal: '',
    from: ['Queens and nuclei', 'Livestock'],
    to: ['Queens and nuclei'],
  })
  const moved = Object.fromEntries(
    (effect?.prices?.buyers ?? []).map(({ buyer, summary }) => [buyer.name, summary.moved]),
  )
  expect(moved).toEqual({
    Guests: 0,
    Retail: 0,
    'Club members': 6,
    'Bee farms': 6,
    Distributors: 6,
    Schools: 0,
  })
  // A line for 5 % less no longer reaches it: −12 % of the list does.
  const farms = await loadMoveEffect(lookAs('group:bee-farms'), UP)
  expect(farms?.left.map(({ name }) => name)).toContain('Bee farm level')
  expect(effect?.entered).toEqual([])
  expect(effect?.lines).toBe((await linesLeft(store, UP)).length)
  expect(effect?.lines).toBeGreaterThan(0)
})

test('with its lines taken along no price moves', async () => {
  const effect = await loadMoveEffect(guest, { ...UP, keepsPrices: true })
  expect(effect).toMatchObject({ refusal: '', prices: { summary: 'no price moves' } })
})

test('what cannot stand somewhere is refused', async () => {
  const inside = { ...UP, id: idOf('queens'), place: { parent: idOf('nuclei'), before: null } }
  expect(await loadMoveEffect(guest, inside)).toMatchObject({
    refusal: expect.stringMatching(/^It cannot stand there/),
  })
  expect(await loadMoveEffect(guest, { ...UP, id: 'category-gone' })).toBeNull()
})

test('a move is read back from its address, and one that is no longer possible is not', () => {
  const { categories } = view
  const read = (fields: Record<string, string>) => moveFromUrl(new URLSearchParams(fields), categories)
  const byId = new Map(categories.map((each) => [each.id, each]))
  const any = fc.constantFrom(...categories)
  fc.assert(
    fc.property(any, any, fc.boolean(), (one, beside, keepsPrices) => {
      const move = { id: one.id, place: { parent: beside.parent, before: beside.id }, keepsPrices }
      const isPossible = !isWithin(byId, beside.parent, one.id) && beside.id !== one.id
      expect(read(moveToUrl(move, categories))).toEqual(isPossible ? move : null)
    }),
  )
  expect(read(moveToUrl(UP, categories))).toEqual(UP)
  expect(read({})).toBeNull()
  expect(read({ move: 'nuclei', into: 'gone', before: '-' })).toBeNull()
  expect(read({ move: 'queens', into: 'nuclei', before: '-' })).toBeNull()
  expect(read({ move: 'nuclei', into: 'hives', before: 'mated-queens' })).toBeNull()
})
