import 'server-only'

import { shownNote } from './shown-note'
import type { PreparedStore } from '@/core/engine/context/prepared-store'
import { withStates } from '@/core/catalogue/stock'
import { restocked, withChanges } from '@/core/engine/prepare'
import type { RecordKind } from '@/core/issue/issue'
import { rebase, touchedFields } from '@/core/store/rebase'
import { labelOf } from '@/core/store/references'
import { type Change, reverseChanges } from '@/core/store/store'
import {
  and,
  asc,
  desc,
  eq,
  gt,
  gte,
  isNotNull,
  isNull,
  lte,
  notInArray,
  or,
  type SQL,
  sql,
} from 'drizzle-orm'
import type { PgColumn } from 'drizzle-orm/pg-core'
import * as schema from '../database/schema'
import type { Steppe } from '../engine/steppe'
import { liveView, revisionOf, type View } from '../views/view'
import { editAfter, latestEdits, readEdit } from '../drafts/draft-rows'
import { toChange } from '../records/undo-unfinished'
import { countStock } from '../stock/move-stock'
import { noticeStock } from '../stock/notice-stock'
import { countsOf, stockChangedSince } from '../stock/stock-levels'
import { commit, noteChange } from './commit'
import { netChanges } from './net-changes'
import type { CommitNote, CommitOutcome } from './commit-outcome'
import type { ChangeRequest } from './weigh'

export type UndoOutcome =
  | CommitOutcome
  | { readonly ok: false; readonly code: 'unknown-change-set' }
  /** Everything it changed is as it was before it. */
  | { readonly ok: false; readonly code: 'back-already'; readonly label: string }

/**
 * Undoes a change set by a change set of its own (which can be undone in turn), and the counts of stock that came with it.
 * Fields it left alone, and what was sold since, stay as they are.
 *
 * Errors  as of `commit`: stale when a field it changed has been changed again since; what somebody has put back by hand,
 *         since no empty change is written for it; an unknown number.
 */
export async function undo(
  view: View,
  changeSet: number,
  note: { readonly author: string; readonly note: string; readonly at: Date },
): Promise<UndoOutcome> {
  const changes = await readChanges(view, changeSet)
  const { steppe } = view
  const counted = view.draft ? [] : await countsOf(steppe.database, changeSet)
  if (changes.length === 0 && counted.length === 0) return { ok: false, code: 'unknown-change-set' }
  // A count moves stock by a difference: taken back twice it would move it twice.
  const stock = counted.length > 0 && (await isInForce(steppe, changeSet)) ? counted : []
  const back = rebase(reverseChanges(changes), view.prepared.store)
  const [first] = back
  const isBack = back.every(({ change }) => touchedFields(change).length === 0)
  if (isBack && stock.length === 0) {
    const { kind, before, after } = first?.change ?? { kind: null, before: null, after: null }
    return {
      ok: false,
      code: 'back-already',
      label: kind === null ? 'the stock' : labelOf(kind, before ?? (after as never)),
    }
  }
  const conflicts = back.flatMap(({ change: { kind, id, before, after }, conflict }) =>
    conflict === null
      ? []
      : [{ kind, id, label: labelOf(kind, before ?? (after as never)), current: before, submitted: after }],
  )
  if (conflicts.length > 0) return { ok: false, code: 'stale', conflicts }
  const requests = back.map(({ change: { kind, id, after } }) => ({
    kind,
    id,
    seen: revisionOf(view, kind, id),
    after,
  }))
  const undoing: CommitNote = {
    ...note,
    undoes: changeSet,
    alongside: (transaction, number) =>
      countStock(transaction, stock, { ...note, changeSet: number }, 'corrected'),
  }
  const outcome = isBack
    ? await noteChange(steppe, undoing)
    : await commit(view, requests as readonly ChangeRequest[], undoing)
  if (outcome.ok)
    await noticeStock(
      steppe,
      stock.map(({ variant }) => variant),
    )
  return outcome
}

/** Whether a change set still counts: nothing undid it, or what did was undone itself. */
async function isInForce(steppe: Steppe, changeSet: number): Promise<boolean> {
  const undoing = await steppe.database
    .select({ id: schema.changeSets.id })
    .from(schema.changeSets)
    .where(and(eq(schema.changeSets.undoes, changeSet), counts(steppe, schema.changeSets.id)))
  for (const { id } of undoing) if (await isInForce(steppe, id)) return false
  return true
}

/** What the history says of a change set that takes another one back: what that one was. */
export async function undoNote({ steppe }: View, changeSet: number): Promise<string> {
  const { changeSets, draftChangeSets } = steppe.database.query
  const undone =
    changeSet >= schema.FIRST_DRAFT_CHANGE_SET
      ? await draftChangeSets.findFirst({ where: eq(schema.draftChangeSets.id, changeSet) })
      : await changeSets.findFirst({ where: eq(schema.changeSets.id, changeSet) })
  return `Undo: ${undone?.note ?? `change ${changeSet}`}`
}

type Fields = Readonly<Record<string, unknown>>

/** What is still being written in slices stands in the history already, and does not count yet. */
function counts({ lastChangeSet }: Steppe, changeSet: PgColumn): SQL {
  return lte(changeSet, lastChangeSet)
}

/** What a change set changed, or an edit of the draft that is looked through; of another draft, nothing. */
export async function readChanges({ steppe, draft }: View, changeSet: number): Promise<readonly Change[]> {
  if (changeSet >= schema.FIRST_DRAFT_CHANGE_SET)
    return draft ? readEdit(steppe.database, draft.draft.id, changeSet) : []
  if (changeSet > steppe.lastChangeSet) return []
  const rows = await steppe.database
    .select()
    .from(schema.changes)
    .where(eq(schema.changes.changeSet, changeSet))
    .orderBy(asc(schema.changes.position))
  return rows.map(toChange)
}

const FIRST_CHANGE_SET = 1

/** How many stores of the past are kept, so that looking around in one is quick. */
const REMEMBERED = 4

/**
 * The store as it was at an instant: everything committed later is undone, but for the change set that
 * made the store, so that an instant before there was one shows its beginning.
 */
export async function preparedAsOf(steppe: Steppe, instant: Date): Promise<PreparedStore> {
  // What was changed is read only when it is needed: an import's rows are many.
  const [first] = await steppe.database
    .select({ id: schema.changeSets.id })
    .from(schema.changeSets)
    .where(and(gt(schema.changeSets.at, instant), gt(schema.changeSets.id, FIRST_CHANGE_SET)))
    .orderBy(asc(schema.changeSets.id))
    .limit(1)
  const present = liveView(steppe).prepared
  const stock = await stockChangedSince(steppe.database, instant)
  if (!first && stock.size === 0) return present

  const { past, lastChangeSet } = steppe
  const key = `${lastChangeSet}/${first?.id ?? ''}/${[...stock].sort().join(' ')}`
  const known = past.get(key)
  if (known) return known
  const later = first
    ? await steppe.database
        .select()
        .from(schema.changes)
        .where(and(gte(schema.changes.changeSet, first.id), lte(schema.changes.changeSet, lastChangeSet)))
        .orderBy(asc(schema.changes.changeSet), asc(schema.changes.position))
    : []
  const back = netChanges(present.store, reverseChanges(later.map(toChange)))
  const prepared = restocked(withChanges(present, back), withStates(present.store.outOfStock, stock))
  past.set(key, prepared)
  for (const old of [...past.keys()].slice(0, -REMEMBERED)) past.delete(old)
  return prepared
}

/**
 * The id of the record that was known by a code before it was renamed: the last one, where several were.
 *
 * Errors  `null` when no record of the kind ever went by it.
 */
export async function formerlyKnownAs(
  steppe: Steppe,
  kind: RecordKind,
  code: string,
): Promise<string | null> {
  const [row] = await steppe.database
    .select({ id: schema.changes.record })
    .from(schema.changes)
    .where(
      and(
        eq(schema.changes.kind, kind),
        sql`${schema.formerCode(schema.changes)} = ${code.toLowerCase()}`,
        counts(steppe, schema.changes.changeSet),
      ),
    )
    .orderBy(desc(schema.changes.changeSet))
    .limit(1)
  return row?.id ?? null
}

/** A record as it was at a revision; `null` where it has not changed since, or is not known. */
export async function formerRecord(
  { steppe, draft }: View,
  kind: RecordKind,
  id: string,
  revision: number,
): Promise<Fields | null> {
  const edit = draft && (await editAfter(steppe.database, draft.draft.id, { kind, id }, revision))
  if (edit) return edit.before as Fields | null
  const next = await steppe.database.query.changes.findFirst({
    where: and(
      eq(schema.changes.kind, kind),
      eq(schema.changes.record, id),
      gt(schema.changes.changeSet, revision),
      counts(steppe, schema.changes.changeSet),
    ),
    orderBy: asc(schema.changes.changeSet),
  })
  return (next?.before ?? null) as Fields | null
}

type LatestChangeSet = { readonly id: number; readonly at: Date; readonly note: string }

/** The merchant's change sets that still count, newest first: neither undone nor undoing, and no order's; none while the database is gone. */
export function latestChangeSets(steppe: Steppe, count: number): Promise<readonly LatestChangeSet[]> {
  return steppe.presence.orKnown(
    () => readChangeSets(steppe, count),
    () => [],
  )
}

async function readChangeSets(steppe: Steppe, count: number): Promise<readonly LatestChangeSet[]> {
  const { id, at, note, undoes } = schema.changeSets
  const takenBack = steppe.database
    .select({ id: undoes })
    .from(schema.changeSets)
    .where(and(isNotNull(undoes), counts(steppe, id)))
  const sets = await steppe.database
    .select({ id, at, note })
    .from(schema.changeSets)
    .where(and(isNull(undoes), notInArray(id, takenBack), counts(steppe, id)))
    .orderBy(desc(id))
    .limit(count)
  return sets.map((set) => ({ ...set, note: shownNote(set.note) }))
}

/** One change of a sheet's records. */
export interface RecordChange {
  readonly changeSet: number
  readonly at: Date
  readonly author: string
  readonly note: string
}

/** Records that belong to another one, and the field that says so. */
const PARTS: Readonly<
  Partial<
    Record<RecordKind, { readonly kind: RecordKind; readonly owner: Parameters<typeof schema.ownerIn>[1] }>
  >
> = {
  product: { kind: 'variant', owner: 'product' },
  'price-list': { kind: 'price-line', owner: 'list' },
  currency: { kind: 'exchange-rate', owner: 'currency' },
}

/** The latest change sets that touched a record or any part it has or had, newest first; none while the database is gone. */
export function latestChangesOf(
  view: View,
  kind: RecordKind,
  recordId: string,
  count: number,
): Promise<readonly RecordChange[]> {
  return view.steppe.presence.orKnown(
    () => readChangesOf(view, kind, recordId, count),
    () => [],
  )
}

async function readChangesOf(
  { steppe, draft }: View,
  kind: RecordKind,
  recordId: string,
  count: number,
): Promise<readonly RecordChange[]> {
  const edits = draft ? await latestEdits(steppe.database, draft.draft.id, count, { kind, id: recordId }) : []
  if (edits.length >= count) return edits
  const { id, at, author, note } = schema.changeSets
  const { kind: changed, record } = schema.changes
  const part = PARTS[kind]
  const itself = and(eq(changed, kind), eq(record, recordId))
  // The kind is written out, since an index of some rows only is not used for a value that comes with the query.
  const ofPart =
    part &&
    and(
      sql`${changed} = ${sql.raw(`'${part.kind}'`)}`,
      eq(schema.ownerIn(schema.changes, part.owner), recordId),
    )
  const live = await steppe.database
    .selectDistinct({ changeSet: id, at, author, note })
    .from(schema.changes)
    .innerJoin(schema.changeSets, eq(id, schema.changes.changeSet))
    .where(and(ofPart ? or(itself, ofPart) : itself, counts(steppe, id)))
    .orderBy(desc(id))
    .limit(count - edits.length)
  return [...edits, ...live.map((change) => ({ ...change, note: shownNote(change.note) }))]
}
