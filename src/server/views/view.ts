import 'server-only'

import type { DraftChange } from '@/core/drafts/amend'
import type { DraftConflict } from '@/core/drafts/lay-over'
import type { What } from '@/core/predicates/what'
import { narrowed, type Sight } from '@/core/engine/context/narrowed'
import type { PreparedStore } from '@/core/engine/context/prepared-store'
import type { RecordKind } from '@/core/issue/issue'
import { type Change, getSettings } from '@/core/store/store'
import type { Draft } from '../drafts/draft-rows'
import type { Steppe } from '../engine/steppe'
import { revisionKey } from '../records/record-tables'

/** What is looked at, before anybody has looked. */
export type Source =
  | { readonly kind: 'live' }
  /** What was live at an instant. */
  | { readonly kind: 'instant'; readonly at: Date }
  /** A draft by its code, as if it were live now. */
  | { readonly kind: 'draft'; readonly code: string }

/** A draft that is looked through. */
export interface ViewedDraft {
  readonly draft: Draft
  /** What it does to each record, by `kind/id`, and which edit said so last. */
  readonly known: ReadonlyMap<string, DraftChange>
  readonly revisions: ReadonlyMap<string, number>
  /** From what is live to what the draft shows. */
  readonly changes: readonly Change[]
  readonly conflicts: readonly DraftConflict[]
  /** What it is laid over. */
  readonly live: PreparedStore
}

/** Where changes go, and the store that they are made on. */
export interface Target {
  readonly steppe: Steppe
  /** As it was when somebody looked; `null` until the store is set up, and while it is broken. */
  readonly prepared: PreparedStore | null
  /** The last change set in it. */
  readonly asOf: number
  /** `null` for what is live, or was. */
  readonly draft: ViewedDraft | null
  /** A draft that was wanted and is not there: nothing can be changed in it. */
  readonly missing: string | null
  /** Nothing is changed here: the store wants a draft for that. */
  readonly isGuarded?: boolean
  /** How much whoever looks is shown: its stores hold no more. Left out where that is everything. */
  readonly sight?: Sight
  /** Only what lies within each of these is changed here. */
  readonly within?: readonly What[]
}

/** A store somebody looks at, whose changes go where they look. */
export interface View extends Target {
  readonly prepared: PreparedStore
}

/** A store made of one that is looked at, as whoever looks at that may see it. */
export function shownIn({ sight }: Pick<Target, 'sight'>, prepared: PreparedStore): PreparedStore {
  return sight ? narrowed(prepared, sight) : prepared
}

/** The store that is live, whatever state it is in. */
export function liveTarget(steppe: Steppe): Target {
  return { steppe, prepared: steppe.prepared, asOf: steppe.lastChangeSet, draft: null, missing: null }
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

/** The change set, or the edit of a draft, that last wrote a record; `null` when there is no such record. */
export function revisionOf({ steppe, draft, prepared }: Target, kind: RecordKind, id: string): number | null {
  const key = revisionKey({ kind, id })
  const inDraft = draft?.revisions.get(key)
  if (inDraft !== undefined) return prepared?.store[kind].has(id) ? inDraft : null
  return steppe.revisions.get(key) ?? null
}

/**
 * The revision somebody saw of a record who read the store as of a change set: its present one where it has not been
 * changed since, else one that is none any more, so that their edit is stale.
 */
export function revisionAsOf(target: Target, kind: RecordKind, id: string, asOf: number): number | null {
  const revision = revisionOf(target, kind, id)
  return revision !== null && revision > asOf ? asOf : revision
}

/** Whether what a person changes has to go through a draft. */
export function isChangedByDraft({ steppe }: Pick<Target, 'steppe'>): boolean {
  return steppe.prepared !== null && getSettings(steppe.prepared.store).publishing !== 'as-you-go'
}
