import 'server-only'

import type { PreparedStore } from '@/core/engine/context/prepared-store'
import type { RecordKind } from '@/core/issue/issue'
import type { Steppe } from '../engine/steppe'
import { revisionKey } from '../records/record-tables'

/** Where changes go, and the store that they are made on. */
export interface Target {
  readonly steppe: Steppe
  /** As it was when somebody looked; `null` until the store is set up, and while it is broken. */
  readonly prepared: PreparedStore | null
  /** The last change set in it. */
  readonly asOf: number
}

/** A store somebody looks at, whose changes go where they look. */
export interface View extends Target {
  readonly prepared: PreparedStore
}

/** The store that is live, whatever state it is in. */
export function liveTarget(steppe: Steppe): Target {
  return { steppe, prepared: steppe.prepared, asOf: steppe.lastChangeSet }
}

/**
 * The live store.
 *
 * Errors  throws `RangeError` on one that has not been set up.
 */
export function liveView(steppe: Steppe): View {
  const { prepared } = steppe
  if (!prepared) throw new RangeError('the store has not been set up')
  return { ...liveTarget(steppe), prepared }
}

/** The change set that last wrote a record; `null` when there is no such record. */
export function revisionOf({ steppe }: Target, kind: RecordKind, id: string): number | null {
  return steppe.revisions.get(revisionKey({ kind, id })) ?? null
}

/**
 * The revision somebody saw of a record who read the store as of a change set: its present one where it has not been
 * changed since, else one that is none any more, so that their edit is stale.
 */
export function revisionAsOf(target: Target, kind: RecordKind, id: string, asOf: number): number | null {
  const revision = revisionOf(target, kind, id)
  return revision !== null && revision > asOf ? asOf : revision
}
