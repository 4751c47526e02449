import { RECORD_KINDS } from '../issue/issue'
import { labelOf } from '../store/references'
import type { Store } from '../store/store'
import { openPricingContext } from './price/open-pricing-context'
import { prepare } from './prepare'
import type { PreparedStore } from './context/prepared-store'

/**
 * A prepared store that has been asked something: what holds for a guest in the first channel.
 *
 * Errors  throws whatever asking throws, so that a store nobody can ask is found out before it is kept.
 */
export function proved(prepared: PreparedStore, at = 0): PreparedStore {
  const opened = openPricingContext(prepared, {
    ...{ buyer: { kind: 'guest' }, channel: null, deliverTo: null },
    ...{ currency: null, passcode: null, at },
  })
  if (!opened.ok) throw new RangeError(`nobody can ask this store: ${opened.error.code}`)
  return prepared
}

/** So many records of a kind are tried one by one. */
const MOST_TRIED = 2_000

/**
 * The record without which a store could be prepared, as `kind code`.
 *
 * Errors  only the kind when no single record of it is the reason, or there are too many to try; the settings when no
 *         other kind is.
 */
export function findCulprit(store: Store): string {
  for (const kind of RECORD_KINDS) {
    if (kind === 'settings' || !works({ ...store, [kind]: new Map() })) continue
    const records = store[kind] as ReadonlyMap<string, never>
    if (records.size > MOST_TRIED) return kind
    for (const [id, record] of records) {
      const others = new Map(records)
      others.delete(id)
      if (works({ ...store, [kind]: others })) return `${kind} ${labelOf(kind, record)}`
    }
    return kind
  }
  // Nothing else is the reason.
  return 'settings'
}

function works(store: Store): boolean {
  try {
    proved(prepare(store))
    return true
  } catch {
    return false
  }
}
