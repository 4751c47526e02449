import 'server-only'

import { findMinorDigits } from '@/core/currency/iso-4217'
import { wholeOf } from '@/core/engine/context/narrowed'
import type { PreparedStore } from '@/core/engine/context/prepared-store'
import { refreshInSteps } from '@/core/engine/prepare'
import { proved } from '@/core/engine/prove-prepared'
import type { Issue, RecordKind } from '@/core/issue/issue'
import { checkInSteps } from '@/core/store/check-changes'
import { type InputOfKind, type ParseContext, parseRecord } from '@/core/store/parse-record'
import { rebase } from '@/core/store/rebase'
import { labelOf } from '@/core/store/references'
import { meansTheSame } from '@/core/store/same-meaning'
import {
  applyInSteps,
  type Change,
  emptyStore,
  priceDigitsOf,
  type RecordOfKind,
  type Store,
} from '@/core/store/store'
import { Slices } from '../doors/slices'
import { checkShape } from '../records/record-schema'
import { revisionOf, type Target } from '../views/view'
import { findOutOfReach, type OutOfReach, withHiddenCosts } from './out-of-reach'

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

/** Somebody else changed, made or removed the record after the edit began. */
interface Conflict {
  readonly kind: RecordKind
  readonly id: string
  readonly label: string
  readonly current: RecordOfKind[RecordKind] | null
  readonly submitted: InputOfKind[RecordKind] | null
}

/** Why requests come to nothing. */
export type Refused =
  | { readonly ok: false; readonly code: 'invalid'; readonly issues: readonly Issue[] }
  | { readonly ok: false; readonly code: 'stale'; readonly conflicts: readonly Conflict[] }
  | { readonly ok: false; readonly code: 'nothing-to-change' }
  | OutOfReach
  /** The store could not be asked anything any more, for a reason no check knows. */
  | { readonly ok: false; readonly code: 'unreadable'; readonly why: string }

/** What requests would come to, with nothing written. */
export interface Weighed {
  readonly ok: true
  readonly changes: readonly Change[]
  readonly before: PreparedStore | null
  readonly after: PreparedStore
}

/** How many records are read between two reports of progress. */
const RECORDS_A_TURN = 2_000

/** Called with how many records are read; throwing in it ends the reading. */
type OnRead = (done: number) => Promise<void> | void

/**
 * What requests would make of a store: everything a commit checks, and the engine as it would be. `seen` is the store as
 * whoever asks saw it, where it has moved on since: what was sold meanwhile stays sold.
 *
 * Errors  those of `commit`.
 */
export async function weigh(
  target: Target,
  requests: readonly ChangeRequest[],
  { seen = target, onRead = () => undefined }: { readonly seen?: Target; readonly onRead?: OnRead } = {},
): Promise<Weighed | Refused> {
  const before = target.prepared && wholeOf(target.prepared)
  const store = before?.store ?? target.steppe.broken?.store ?? emptyStore()
  const meant = meantBy(seen, requests)
  if ('ok' in meant) return meant
  const conflicts = findConflicts(target, store, meant)
  if (conflicts.length > 0) return { ok: false, code: 'stale', conflicts }
  const asSeen = seen.prepared && wholeOf(seen.prepared)
  const read = await readRequests(store, asSeen?.store ?? store, meant, onRead)
  if (read.issues.length > 0) return { ok: false, code: 'invalid', issues: read.issues }
  const { changes } = read
  if (changes.length === 0) return { ok: false, code: 'nothing-to-change' }
  const tried = await tryChanges(before, store, changes)
  if (!tried.ok) return tried
  return (
    findOutOfReach(seen, changes, before, tried.after) ?? { ok: true, changes, before, after: tried.after }
  )
}

/** What is asked for by somebody who may have been shown less than there is. */
function meantBy(seen: Target, requests: readonly ChangeRequest[]): readonly ChangeRequest[] | OutOfReach {
  if (!seen.sight?.hidesCosts) return requests
  const meant: ChangeRequest[] = []
  for (const request of requests) {
    const whole = withHiddenCosts(request, seen)
    if ('ok' in whole) return whole
    meant.push(whole)
  }
  return meant
}

/**
 * A prepared store with changes that were read against another one and touch none of what the two differ in.
 *
 * Errors  those of `commit`, as far as the changes cannot stand in this store.
 */
export async function weighAgain(prepared: PreparedStore, changes: readonly Change[]): Promise<Tried> {
  if (changes.length === 0) return { ok: true, after: prepared }
  return tryChanges(prepared, prepared.store, changes)
}

type Tried = { readonly ok: true; readonly after: PreparedStore } | Refused

/** The engine as it will be: made before anything is written, so that nothing is written that it cannot read. */
async function tryChanges(
  before: PreparedStore | null,
  store: Store,
  changes: readonly Change[],
): Promise<Tried> {
  const slices = new Slices()
  const next = await slices.run(applyInSteps(store, changes))
  const issues = await slices.run(checkInSteps(next, changes))
  if (issues.length > 0) return { ok: false, code: 'invalid', issues }
  try {
    return { ok: true, after: proved(await slices.run(refreshInSteps(before, next, changes))) }
  } catch (error) {
    return { ok: false, code: 'unreadable', why: error instanceof Error ? error.message : String(error) }
  }
}

function findConflicts(
  target: Target,
  store: Store,
  requests: readonly ChangeRequest[],
): readonly Conflict[] {
  return requests.flatMap((request) => {
    const { kind, id, after } = request
    if (revisionOf(target, kind, id) === request.seen) return []
    const current = store[kind].get(id) ?? null
    return [{ kind, id, label: current ? labelOf(kind, current) : id, current, submitted: after }]
  })
}

/** Submitted records become records, those that say something else than before; everything wrong with any is gathered. */
async function readRequests(store: Store, seen: Store, requests: readonly ChangeRequest[], onRead: OnRead) {
  const changes: Change[] = []
  const issues: Issue[] = []
  const context = parseContext(store, requests)
  const slices = new Slices()
  for (const [at, { kind, id, after }] of requests.entries()) {
    if (at % RECORDS_A_TURN === 0) await onRead(at)
    await slices.rest()
    const before = store[kind].get(id) ?? null
    if (after === null) {
      if (before !== null) changes.push({ kind, id, before, after } as Change)
      continue
    }
    const shape = checkShape(kind, after)
    if (shape.length > 0) {
      issues.push(...shape.map((error) => ({ code: 'malformed' as const, kind, label: id, ...error })))
      continue
    }
    const parsed = parseRecord(kind, after as never, context)
    if (!parsed.ok) {
      issues.push(...parsed.issues)
      continue
    }
    const wanted = { kind, id, before: seen[kind].get(id) ?? null, after: parsed.value } as Change
    const change = wanted.before === before ? wanted : onto(wanted, store)
    if (!meansTheSame(before, change.after)) changes.push(change)
  }
  return { changes, issues }
}

/** A change of a record that has moved on by itself since it was seen. */
function onto(change: Change, store: Store): Change {
  return rebase([change], store)[0]?.change ?? change
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
