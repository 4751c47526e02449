import type { PreparedStore } from '../engine/context/prepared-store'
import { factsOf } from '../engine/items/catalogue-index'
import { matchWhat } from '../predicates/what'

/** Whether extras are sold and made for an item. */
export function goWith({ store, index }: PreparedStore, variant: string, extras: readonly string[]): boolean {
  if (extras.length === 0) return true
  const facts = factsOf(store, index, index.numberOf.get(variant) as number)
  return extras.every((id) => {
    const extra = store.extra.get(id)
    return extra?.status === 'active' && matchWhat(extra.scope, facts).matches
  })
}
