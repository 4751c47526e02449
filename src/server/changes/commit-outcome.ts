import 'server-only'

import type { PreparedStore } from '@/core/engine/context/prepared-store'
import type { Change } from '@/core/store/store'
import type { Steppe } from '../engine/steppe'
import type { Refused } from './weigh'

export interface CommitNote {
  readonly author: string
  readonly note: string
  /** The change set this one undoes. */
  readonly undoes?: number
  readonly at: Date
  /** Writes something else with it, all or nothing; throwing out of it calls everything off. */
  readonly alongside?: (transaction: Transaction, changeSet: number) => Promise<void>
}

export type Transaction = Parameters<Parameters<Steppe['database']['transaction']>[0]>[0]

export interface Committed {
  readonly ok: true
  readonly changeSet: number
  readonly changes: readonly Change[]
  readonly before: PreparedStore | null
  readonly after: PreparedStore
}

export type CommitOutcome =
  | Committed
  | Refused
  /** The disk is nearly full: nothing is written before there is room again. */
  | { readonly ok: false; readonly code: 'disk-full'; readonly freeBytes: number }
  /** The store is changed by drafts, and this was to count at once. */
  | { readonly ok: false; readonly code: 'drafts-only' }
  /** The draft that it was to go into is not open any more. */
  | { readonly ok: false; readonly code: 'no-such-draft'; readonly draft: string }

/** How a large commit comes on. Throwing out of it stops the commit, of which nothing is written then. */
export type CommitProgress = (stage: 'checking' | 'writing', done: number) => Promise<void> | void
