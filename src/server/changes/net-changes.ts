import 'server-only'

import type { Change, Store } from '@/core/store/store'
import { revisionKey } from '../records/record-tables'

/** One change for each record, from what it is in a store to what the last of its changes makes of it. */
export function netChanges(store: Store, changes: readonly Change[]): readonly Change[] {
  const last = new Map(changes.map((change) => [revisionKey(change), change]))
  return [...last.values()].map(
    (change) => ({ ...change, before: store[change.kind].get(change.id) ?? null }) as Change,
  )
}
