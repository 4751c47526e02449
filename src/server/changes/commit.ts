import 'server-only'

import { moveStock } from '@/core/catalogue/stock'
import { findMinorDigits } from '@/core/currency/iso-4217'
import { parseDecimal } from '@/core/decimal/decimal'
import { prepare, refresh } from '@/core/engine/prepare'
import { proved } from '@/core/engine/prove-prepared'
import type { PreparedStore } from '@/core/engine/context/prepared-store'
import type { Issue, RecordKind } from '@/core/issue/issue'
import { checkChanges } from '@/core/store/check-changes'
import { type InputOfKind, type ParseContext, parseRecord } from '@/core/store/parse-record'
import { labelOf } from '@/core/store/references'
import { meansTheSame } from '@/core/store/same-meaning'
import {
  applyChanges,
  type Change,
  emptyStore,
  priceDigitsOf,
  type RecordOfKind,
  type Store,
} from '@/core/store/store'
import { isDiskFull } from '../database/disk-room'
import * as schema from '../database/schema'
import { Slices } from '../doors/slices'
import type { Steppe } from '../engine/steppe'
import { checkShape } from '../records/record-schema'
import { revisionKey, writeChanges, writeHistory } from '../records/record-tables'

/** One record as somebody wants it to be. */
export type ChangeRequest = {
  [Kind in RecordKind]: {
    readonly kind: Kind
    readonly id: string
    /** The revision the edit was made on; `null` for a record that does not exist yet. */
    readonly seen: number | null
    /** `null` removes the record. */
    readonly after: InputOfKind[Kind] | null
  }
}[RecordKind]

/** Who changes what happens by itself when something is sold. */
export const SHOP_AUTHOR = 'Shop'

export interface CommitNote {
  readonly author: string
  readonly note: string
  /** The change set this one undoes. */
  readonly undoes?: number
  readonly at: Date
  /**
   * Records stay at the revision they had: what happens by itself, as stock that is sold, must not stand in the way of
   * an edit somebody is at.
   */
  readonly keepsRevisions?: boolean
  /** Writes something else with it, all or nothing; throwing out of it calls everything off. */
  readonly alongside?: (transaction: Transaction) => Promise<void>
}

export type Transaction = Parameters<Parameters<Steppe['database']['transaction']>[0]>[0]

/** Somebody else changed, made or removed the record after the edit began. */
interface Conflict {
  readonly kind: RecordKind
  readonly id: string
  readonly label: string
  readonly current: RecordOfKind[RecordKind] | null
  readonly submitted: InputOfKind[RecordKind] | null
}

export interface Committed {
  readonly ok: true
  readonly changeSet: number
  readonly changes: readonly Change[]
  readonly before: PreparedStore | null
  readonly after: PreparedStore
}

export type CommitOutcome =
  | Committed
  | { readonly ok: false; readonly code: 'invalid'; readonly issues: readonly Issue[] }
  | { readonly ok: false; readonly code: 'stale'; readonly conflicts: readonly Conflict[] }
  | { readonly ok: false; readonly code: 'nothing-to-change' }
  /** The disk is nearly full: nothing is written before there is room again. */
  | { readonly ok: false; readonly code: 'disk-full'; readonly freeBytes: number }
  /** The store could not be asked anything any more, for a reason no check knows. */
  | { readonly ok: false; readonly code: 'unreadable'; readonly why: string }

/**
 * The one door for writes: all of the requests become one change set, or none does.
 *
 * Holds   when it resolves with `ok`, the change set is on disk and the prepared engine knows it.
 * Errors  returned: what is wrong with the records, which of them changed meanwhile, or that nothing
 *         would change. A failing database rejects, and then nothing was written.
 */
export function commit(
  steppe: Steppe,
  requests: readonly ChangeRequest[],
  note: CommitNote,
  onProgress: CommitProgress = NO_PROGRESS,
): Promise<CommitOutcome> {
  const seen = steppe.prepared?.store
  const turn = steppe.writing.then(() =>
    commitNow(steppe, afterSales(steppe, seen, requests), note, onProgress),
  )
  steppe.writing = turn.catch(() => undefined)
  return turn
}

/** What was sold while a request waited for its turn stays sold: records keep their revision when stock goes down. */
function afterSales(
  { prepared }: Steppe,
  seen: Store | undefined,
  requests: readonly ChangeRequest[],
): readonly ChangeRequest[] {
  if (!seen || !prepared || seen.variant === prepared.store.variant) return requests
  return requests.map((request): ChangeRequest => {
    if (request.kind !== 'variant' || request.after === null) return request
    const then = seen.variant.get(request.id)?.stock ?? null
    const now = prepared.store.variant.get(request.id)?.stock ?? null
    const wanted = parseDecimal(request.after.stock ?? '')
    if (wanted === null || then === now) return request
    return { ...request, after: { ...request.after, stock: moveStock(now, then, wanted) } }
  })
}

/** How a large commit comes on. Throwing out of it stops the commit, of which nothing is written then. */
export type CommitProgress = (stage: 'checking' | 'writing', done: number) => Promise<void> | void

const NO_PROGRESS: CommitProgress = () => undefined

/** How many records are checked, or changes noted down, between two reports of progress. */
const RECORDS_A_TURN = 2_000

/** What requests would come to, with nothing written. */
interface Weighed {
  readonly ok: true
  readonly changes: readonly Change[]
  readonly before: PreparedStore | null
  readonly after: PreparedStore
}

/**
 * What requests would make of the store: everything a commit checks, and the engine as it would be.
 *
 * Errors  those of `commit`.
 */
export async function weigh(
  steppe: Steppe,
  requests: readonly ChangeRequest[],
  onProgress: CommitProgress = NO_PROGRESS,
): Promise<Weighed | Extract<CommitOutcome, { readonly ok: false }>> {
  const store = steppe.prepared?.store ?? steppe.broken?.store ?? emptyStore()
  const conflicts = findConflicts(steppe, store, requests)
  if (conflicts.length > 0) return { ok: false, code: 'stale', conflicts }
  const read = await readRequests(store, requests, onProgress)
  if (read.issues.length > 0) return { ok: false, code: 'invalid', issues: read.issues }
  const changes = read.changes.filter(({ before, after }) => !meansTheSame(before, after))
  if (changes.length === 0) return { ok: false, code: 'nothing-to-change' }
  const next = applyChanges(store, changes)
  const issues = checkChanges(next, changes)
  if (issues.length > 0) return { ok: false, code: 'invalid', issues }
  const before = steppe.prepared
  const after = tryNext(before, next, changes)
  if ('why' in after) return { ok: false, code: 'unreadable', why: after.why }
  return { ok: true, changes, before, after }
}

async function commitNow(
  steppe: Steppe,
  requests: readonly ChangeRequest[],
  note: CommitNote,
  onProgress: CommitProgress,
): Promise<CommitOutcome> {
  if (isDiskFull(steppe)) return { ok: false, code: 'disk-full', freeBytes: steppe.freeBytes() }
  const weighed = await weigh(steppe, requests, onProgress)
  if (!weighed.ok) return weighed
  const { changes, before, after } = weighed

  const changeSet = steppe.lastChangeSet + 1
  const revisionOf = (record: Pick<Change, 'kind' | 'id'>) =>
    (note.keepsRevisions && steppe.revisions.get(revisionKey(record))) || changeSet
  await steppe.database.transaction(async (transaction) => {
    const { author, at, undoes, alongside } = note
    await transaction
      .insert(schema.changeSets)
      .values({ id: changeSet, at, author, note: note.note, undoes: undoes ?? null })
    const slices = new Slices()
    const onRows = async (done: number) => {
      await onProgress('writing', done)
      await slices.rest()
    }
    await writeHistory(transaction, changes, changeSet, onRows)
    await writeChanges(transaction, changes, revisionOf, (done) => onRows(changes.length + done))
    await alongside?.(transaction)
  })
  steppe.sync()

  steppe.prepared = after
  steppe.broken = null
  steppe.lastChangeSet = changeSet
  for (const change of changes) {
    if (change.after === null) steppe.revisions.delete(revisionKey(change))
    else steppe.revisions.set(revisionKey(change), revisionOf(change))
  }
  return { ok: true, changeSet, changes, before, after }
}

/** The engine as it will be: made before anything is written, so that nothing is written that it cannot read. */
function tryNext(
  before: PreparedStore | null,
  next: Store,
  changes: readonly Change[],
): PreparedStore | { readonly why: string } {
  try {
    return proved(before ? refresh(before, next, changes) : prepare(next))
  } catch (error) {
    return { why: error instanceof Error ? error.message : String(error) }
  }
}

function findConflicts(
  steppe: Steppe,
  store: Store,
  requests: readonly ChangeRequest[],
): readonly Conflict[] {
  return requests.flatMap((request) => {
    const { kind, id, after } = request
    if ((steppe.revisions.get(revisionKey(request)) ?? null) === request.seen) return []
    const current = store[kind].get(id) ?? null
    return [{ kind, id, label: current ? labelOf(kind, current) : id, current, submitted: after }]
  })
}

/** Submitted records become records; everything wrong with any of them is gathered. */
async function readRequests(store: Store, requests: readonly ChangeRequest[], onProgress: CommitProgress) {
  const changes: Change[] = []
  const issues: Issue[] = []
  const context = parseContext(store, requests)
  const slices = new Slices()
  for (const [at, { kind, id, after }] of requests.entries()) {
    if (at % RECORDS_A_TURN === 0) await onProgress('checking', at)
    await slices.rest()
    const before = store[kind].get(id) ?? null
    if (after === null) {
      changes.push({ kind, id, before, after } as Change)
      continue
    }
    const shape = checkShape(kind, after)
    if (shape.length > 0) {
      issues.push(...shape.map((error) => ({ code: 'malformed' as const, kind, label: id, ...error })))
      continue
    }
    const parsed = parseRecord(kind, after as never, context)
    if (parsed.ok) changes.push({ kind, id, before, after: parsed.value } as Change)
    else issues.push(...parsed.issues)
  }
  return { changes, issues }
}

/** What records are read against: the store, and what is submitted together with them. */
export function parseContext(
  store: Store,
  requests: readonly Pick<ChangeRequest, 'kind' | 'id' | 'after'>[] = [],
): ParseContext {
  const submitted = <Fields>(kind: RecordKind, id: string) =>
    requests.find((request) => request.kind === kind && request.id === id)?.after as Fields | undefined
  const settings =
    submitted<{ currency: string; priceDigits: number | null }>('settings', 'settings') ??
    store.settings.get('settings')
  const currencies = new Map<string, number>()
  const lists = new Map<string, string>()
  for (const { kind, id, after } of requests) {
    if (after === null) continue
    if (kind === 'currency')
      currencies.set(id, (after as { priceDigits: number | null }).priceDigits ?? findMinorDigits(id) ?? 2)
    if (kind === 'price-list') lists.set(id, (after as { currency: string }).currency)
  }
  const currency = settings?.currency ?? ''
  const digits = settings?.priceDigits ?? findMinorDigits(currency) ?? 2
  return {
    currency,
    digits,
    digitsOf: (code) => (code === currency ? digits : (currencies.get(code) ?? priceDigitsOf(store, code))),
    currencyOfList: (id) => lists.get(id) ?? store['price-list'].get(id)?.currency ?? currency,
  }
}
