import { rebase, touchedFields } from '@/core/store/rebase'
import { applyChanges, type Change, reverseChanges } from '@/core/store/store'
import { decimal } from '@/core/decimal/decimal'
import { goods, writtenStore } from '@tests/fixtures/written-store'
import fc from 'fast-check'

const STORE = writtenStore({
  categories: [{ code: 'c', name: 'C' }],
  ...goods(['a', '10.00', 'c'], ['b', '20.00', 'c']),
})

/** A variant with some of its fields put. */
function put(id: string, fields: object, store = STORE): Change {
  const before = store.variant.get(id) ?? null
  return { kind: 'variant', id, before, after: { ...before, ...fields } as never }
}

function remove(id: string): Change {
  return { kind: 'variant', id, before: STORE.variant.get(id) ?? null, after: null }
}

test('a change knows the fields it touches', () => {
  expect(touchedFields(put('a', { weight: decimal(4), sku: 'a' }))).toEqual(['weight'])
  expect(touchedFields(remove('a'))).toContain('sku')
})

test('fields that only one side changed merge; the same one on both sides is a conflict with both values', () => {
  const mine = put('a', { weight: decimal('1.5'), position: 3 })
  const theirs = applyChanges(STORE, [put('a', { position: 7, basePrice: decimal(9) })])
  const [rebased] = rebase([mine], theirs)
  expect(rebased?.change.after).toMatchObject({ weight: '1.5', basePrice: '9', position: 3 })
  expect(rebased?.change.before).toBe(theirs.variant.get('a'))
  expect(rebased?.conflict).toEqual({
    code: 'fields',
    fields: [{ field: 'position', before: STORE.variant.get('a')?.position, mine: 3, theirs: 7 }],
  })
  // Both to the same value is no conflict.
  expect(rebase([put('a', { position: 7 })], theirs)[0]?.conflict).toBeNull()
})

test('what is made twice, gone, or removed after it was changed is told', () => {
  const gone = applyChanges(STORE, [remove('a')])
  expect(rebase([put('a', { position: 3 })], gone)[0]?.conflict).toEqual({ code: 'gone' })
  const changed = applyChanges(STORE, [put('a', { position: 3 })])
  expect(rebase([remove('a')], changed)[0]?.conflict).toEqual({ code: 'changed' })
  expect(rebase([remove('a')], gone)[0]?.conflict).toBeNull()
  const made: Change = { ...put('a', { position: 3 }), before: null } as Change
  expect(rebase([made], STORE)[0]?.conflict).toEqual({ code: 'exists' })
})

test('changes fit the store they were made on, and taken back they leave what others did', () => {
  const fields = fc.record(
    {
      position: fc.integer({ min: 0, max: 9 }),
      weight: fc.integer({ min: 1, max: 9 }).map((each) => decimal(each)),
      basePrice: fc.integer({ min: 1, max: 9 }).map((each) => decimal(each)),
    },
    { requiredKeys: [] },
  )
  fc.assert(
    fc.property(fields, fields, (mine, theirs) => {
      const change = put('a', mine)
      expect(rebase([change], STORE)).toEqual([{ change, conflict: null }])
      // They change something else: taking mine back leaves it.
      const others = Object.fromEntries(Object.entries(theirs).filter(([field]) => !(field in mine)))
      const after = applyChanges(STORE, [change])
      const now = applyChanges(after, [put('a', others, after)])
      const back = rebase(reverseChanges([change]), now)
      expect(back[0]?.conflict).toBeNull()
      const undone = applyChanges(
        now,
        back.map((each) => each.change),
      )
      expect(undone.variant.get('a')).toEqual({ ...STORE.variant.get('a'), ...others })
    }),
    { numRuns: 200 },
  )
})
