import { sharedMemory } from '../../maps/shared-memory'
import { storeWithoutCosts } from '../../store/without-costs'
import type { PreparedStore } from './prepared-store'

/** Kept as long as the store it is made of. */
const HIDDEN = sharedMemory('hidden-costs', () => new WeakMap<PreparedStore, PreparedStore>())

/**
 * The same prices, for somebody who must not know what anything costs: they are made with the costs, and nothing that is
 * shown holds one.
 */
export function hideCosts(prepared: PreparedStore): PreparedStore {
  if (prepared.whole) return prepared
  let hidden = HIDDEN.get(prepared)
  if (!hidden)
    HIDDEN.set(
      prepared,
      (hidden = { ...prepared, store: storeWithoutCosts(prepared.store), whole: prepared }),
    )
  return hidden
}

/** The store prices are made of, whoever asks. */
export function wholeOf(prepared: PreparedStore): PreparedStore {
  return prepared.whole ?? prepared
}
