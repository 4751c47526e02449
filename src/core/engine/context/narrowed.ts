import { keptEntries } from '../../maps/kept-entries'
import { sharedMemory } from '../../maps/shared-memory'
import type { Store } from '../../store/store'
import { storeWithoutCosts } from '../../store/without-costs'
import type { PreparedStore } from './prepared-store'

/** How much of a store somebody is shown. */
export interface Sight {
  readonly hidesCosts: boolean
  /** Ids of the accounts they see; `null` is all. */
  readonly accounts: ReadonlySet<string> | null
}

/** Kept as long as the store it is made of. */
const NARROWED = sharedMemory('narrowed', () => new WeakMap<PreparedStore, Map<string, PreparedStore>>())

/** Of so many ways to look at one store. */
const MOST_KEPT = 50

/**
 * The same prices, for somebody who is shown less: they are made of all there is, and nothing that is shown holds a cost, or
 * an account that is not theirs to see.
 */
export function narrowed(prepared: PreparedStore, sight: Sight): PreparedStore {
  const whole = wholeOf(prepared)
  const { hidesCosts, accounts } = sight
  if (!hidesCosts && accounts === null) return whole
  let ways = NARROWED.get(whole)
  if (!ways) NARROWED.set(whole, (ways = new Map()))
  const key = JSON.stringify([hidesCosts, accounts && [...accounts]])
  let shown = ways.get(key)
  if (!shown) {
    if (ways.size >= MOST_KEPT) ways.clear()
    const seen = accounts === null ? whole.store : withAccounts(whole.store, accounts)
    ways.set(
      key,
      (shown = { ...whole, store: hidesCosts ? storeWithoutCosts(seen) : seen, whole, hidesCosts }),
    )
  }
  return shown
}

/** The store prices are made of, whoever asks. */
export function wholeOf(prepared: PreparedStore): PreparedStore {
  return prepared.whole ?? prepared
}

/** Contracts that bind nobody somebody sees are none of theirs either. */
function withAccounts(store: Store, accounts: ReadonlySet<string>): Store {
  const groups = new Set(
    [...store.account.values()].flatMap(({ id, groups: own }) => (accounts.has(id) ? own : [])),
  )
  return {
    ...store,
    account: keptEntries(store.account, (_, id) => accounts.has(id)),
    contract: keptEntries(
      store.contract,
      (contract) =>
        contract.accounts.some((id) => accounts.has(id)) || contract.groups.some((id) => groups.has(id)),
    ),
  }
}
