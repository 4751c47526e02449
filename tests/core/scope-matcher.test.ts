import { factsOf } from '@/core/engine/items/catalogue-index'
import { prepare } from '@/core/engine/prepare'
import { scopeMatcher } from '@/core/engine/items/scope-matcher'
import { matchWhat } from '@/core/predicates/what'
import { randomStore, what } from '@tests/fixtures/random-store'
import fc from 'fast-check'

test('a scope holds an item for a sweep just when it does for one question', () => {
  fc.assert(
    fc.property(randomStore, what, (store, scope) => {
      const prepared = prepare(store)
      const holds = scopeMatcher(prepared, scope)
      prepared.index.items.forEach((_id, number) =>
        expect(holds(number)).toBe(matchWhat(scope, factsOf(store, prepared.index, number)).matches),
      )
    }),
  )
})
