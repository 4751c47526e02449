import { amend, type DraftChange, settle } from '@/core/drafts/amend'
import { layOver } from '@/core/drafts/lay-over'
import { decimal } from '@/core/decimal/decimal'
import { atOnce } from '@/core/steps/steps'
import { meansTheSame } from '@/core/store/same-meaning'
import { rebase, touchedFields } from '@/core/store/rebase'
import { applyChanges, type Change, type Store } from '@/core/store/store'
import { goods, writtenStore } from '@tests/fixtures/written-store'
import fc from 'fast-check'

const STORE = writtenStore({
  categories: [{ code: 'c', name: 'C' }],
  ...goods(['a', '10.00', 'c'], ['b', '20.00', 'c']),
})

function put(id: string, fields: object, store: Store): Change {
  const before = store.product.get(id) ?? null
  return { kind: 'product', id, before, after: { ...before, ...fields } as never }
}

const price = (value: number) => ({ basePrice: decimal(value) })

/** The draft's one change after an edit of what it shows. */
function edited(known: DraftChange | null, live: Store, fields: object): DraftChange | null {
  const { store } = atOnce(layOver(known ? [known] : [], live))
  return amend(known, put('a', fields, store), live)
}

const conflictFields = (change: DraftChange | null, live: Store): readonly string[] => {
  const conflict = change && rebase([change], live)[0]?.conflict
  return conflict?.code === 'fields' ? conflict.fields.map(({ field }) => field) : []
}

test('what live changes beside a draft merges, and editing the draft again makes no conflict of it', () => {
  const mine = edited(null, STORE, price(12))
  const live = applyChanges(STORE, [put('a', { name: 'renamed' }, STORE)])
  expect(atOnce(layOver([mine as DraftChange], live)).store.product.get('a')).toMatchObject({
    name: 'renamed',
    basePrice: '12',
  })
  // The draft's author sees the new name and changes it: that is no conflict.
  const again = edited(mine, live, { name: 'mine' })
  expect(conflictFields(again, live)).toEqual([])
  expect(again?.after).toMatchObject({ name: 'mine', basePrice: '12' })
})

test('the same field on both sides is a conflict until it is edited or settled', () => {
  const mine = edited(null, STORE, price(12)) as DraftChange
  const live = applyChanges(STORE, [put('a', price(11), STORE)])
  const laid = atOnce(layOver([mine], live))
  expect(laid.store.product.get('a')?.basePrice).toBe('12')
  expect(laid.conflicts).toMatchObject([
    { because: { fields: [{ field: 'basePrice', before: '10', mine: '12', theirs: '11' }] } },
  ])
  // Something else is edited: the conflict is still open.
  expect(conflictFields(edited(mine, live, { name: 'other' }), live)).toEqual(['basePrice'])
  expect(conflictFields(edited(mine, live, price(13)), live)).toEqual([])

  const settled = (value: Parameters<typeof settle>[2]) => settle(mine, live, value)
  expect(settled({ field: 'basePrice', keep: 'live' })).toBeNull()
  expect(settled({ field: 'basePrice', keep: 'mine' })).toMatchObject({
    before: { basePrice: '11' },
    after: { basePrice: '12' },
  })
  expect(settled({ field: 'basePrice', value: '14' })).toMatchObject({ after: { basePrice: '14' } })
  expect(settled({ keep: 'live' })).toBeNull()
  expect(conflictFields(settled({ keep: 'mine' }), live)).toEqual([])
})

test('a record that is gone, or was made on both sides, is settled as a whole', () => {
  const removal: Change = { kind: 'variant', id: 'b', before: STORE.variant.get('b') ?? null, after: null }
  const live = applyChanges(STORE, [removal])
  const mine: DraftChange = { ...removal, after: { ...removal.before, position: 4 } } as DraftChange
  expect(atOnce(layOver([mine], live)).conflicts).toMatchObject([{ because: { code: 'gone' } }])
  // Edited again in the draft, it is still gone live.
  const view = atOnce(layOver([mine], live)).store
  const again = amend(mine, { ...mine, before: view.variant.get('b') } as Change, live)
  expect(again?.before).toEqual(removal.before)
  expect(settle(mine, live, { keep: 'live' })).toBeNull()
  const kept = settle(mine, live, { keep: 'mine' })
  expect(kept).toMatchObject({ before: null, after: { position: 4 } })
  expect(atOnce(layOver([kept as DraftChange], live)).conflicts).toEqual([])
})

test('what cannot stand in the live store any more is left out and told, and the rest is laid over', () => {
  const inDraft = put('b', price(21), STORE)
  const newVariant: Change = {
    kind: 'variant',
    id: 'new',
    before: null,
    after: { ...STORE.variant.get('a'), id: 'new', sku: 'new' } as never,
  }
  const live = applyChanges(STORE, [
    { kind: 'variant', id: 'a', before: STORE.variant.get('a') ?? null, after: null },
    { kind: 'product', id: 'a', before: STORE.product.get('a') ?? null, after: null },
  ])
  const laid = atOnce(layOver([newVariant, inDraft], live))
  expect(laid.conflicts).toMatchObject([
    { change: { id: 'new' }, because: { code: 'invalid', issue: { code: 'unknown', field: 'product' } } },
  ])
  expect(laid.store.product.get('b')?.basePrice).toBe('21')
  expect(laid.store.variant.has('new')).toBe(false)
})

const some = fc.record(
  {
    basePrice: fc.integer({ min: 1, max: 3 }).map((each) => decimal(each)),
    cost: fc.integer({ min: 1, max: 3 }).map((each) => decimal(each)),
    name: fc.constantFrom('a', 'x', 'y'),
  },
  { requiredKeys: [] },
)

test('after any edit a draft shows what was typed, and only fields in conflict that nobody touched stay so', () => {
  fc.assert(
    fc.property(fc.array(fc.record({ isLive: fc.boolean(), fields: some }), { maxLength: 12 }), (edits) => {
      let live = STORE
      let known: DraftChange | null = null
      for (const { isLive, fields } of edits) {
        if (isLive) {
          live = applyChanges(live, [put('a', fields, live)])
          continue
        }
        const open = conflictFields(known, live)
        const { store } = atOnce(layOver(known ? [known] : [], live))
        const edit = put('a', fields, store)
        known = amend(known, edit, live)
        const shown = known ? rebase([known], live)[0]?.change.after : live.product.get('a')
        expect(meansTheSame(shown, edit.after)).toBe(true)
        const touched = touchedFields(edit)
        expect([...conflictFields(known, live)].sort()).toEqual(
          open.filter((field) => !touched.includes(field)).sort(),
        )
      }
    }),
    { numRuns: 500 },
  )
})
