import 'server-only'

import { shownNote } from '../changes/shown-note'
import type { DraftChange } from '@/core/drafts/amend'
import { codeFromName } from '@/core/store/code-from-name'
import type { Change } from '@/core/store/store'
import { and, asc, desc, eq, gt, lte, sql } from 'drizzle-orm'
import type { Database, OpenDatabase, Writer } from '../database/database'
import * as schema from '../database/schema'
import { revisionKey, ROWS_A_WRITE } from '../records/record-tables'
import { toChange } from '../records/undo-unfinished'

/** A draft as it stands in the database, without what is in it. */
export type Draft = typeof schema.drafts.$inferSelect

/** What a draft does to each record, and which edit said so last. */
export interface DraftContent {
  /** By `kind/id`. */
  readonly changes: ReadonlyMap<string, DraftChange>
  readonly revisions: ReadonlyMap<string, number>
}

/** One edit in a draft, as it is written. */
export interface DraftEdit {
  /** What the draft showed, and shows. */
  readonly shown: Change
  /** `null` where the draft says nothing of the record any more. */
  readonly change: DraftChange | null
}

/** The open draft that goes by a code. */
export async function findDraft(database: Database, code: string): Promise<Draft | null> {
  const { drafts } = schema
  const found = await database.query.drafts.findFirst({
    where: and(sql`lower(${drafts.code}) = ${code.toLowerCase()}`, eq(drafts.state, 'open')),
  })
  return found ?? null
}

/** Every open draft, in the order they were begun. */
export async function openDrafts(database: Database): Promise<readonly Draft[]> {
  return database.query.drafts.findMany({
    where: eq(schema.drafts.state, 'open'),
    orderBy: asc(schema.drafts.id),
  })
}

/** Begins a draft; where one of the name is open, the next number is put behind it. */
export async function beginDraft(
  database: Database,
  { name, author, at }: { readonly name: string; readonly author: string; readonly at: Date },
): Promise<Draft> {
  const taken = new Set((await openDrafts(database)).map(({ code }) => code.toLowerCase()))
  const code = codeFromName(name, (candidate) => taken.has(candidate.toLowerCase()), 'draft')
  const [draft] = await database.insert(schema.drafts).values({ code, name, author, at }).returning()
  return draft as Draft
}

/** The number of the last edit in a draft; 0 before the first. */
export async function lastEdit(database: Database, draft: number): Promise<number> {
  const { draftChangeSets: sets } = schema
  const [last] = await database
    .select({ id: sets.id })
    .from(sets)
    .where(and(eq(sets.draft, draft), eq(sets.isUnfinished, false)))
    .orderBy(desc(sets.id))
    .limit(1)
  return last?.id ?? 0
}

/** Reads what a draft does, as of one of its edits. */
export async function readDraft(database: Database, draft: number, asOf: number): Promise<DraftContent> {
  const { draftChanges: rows } = schema
  const read = await database
    .selectDistinctOn([rows.kind, rows.record])
    .from(rows)
    .innerJoin(schema.draftChangeSets, eq(schema.draftChangeSets.id, rows.changeSet))
    .where(
      and(eq(rows.draft, draft), eq(schema.draftChangeSets.isUnfinished, false), lte(rows.changeSet, asOf)),
    )
    .orderBy(rows.kind, rows.record, desc(rows.changeSet))
  const changes = new Map<string, DraftChange>()
  const revisions = new Map<string, number>()
  for (const { draft_change: row } of read) {
    if (row.isOut) continue
    const change = toChange({ ...row, before: row.base })
    changes.set(revisionKey(change), change)
    revisions.set(revisionKey(change), row.changeSet)
  }
  return { changes, revisions }
}

/** What one edit changed of what the draft shows; nothing where it is of another draft. */
export async function readEdit(
  database: Database,
  draft: number,
  changeSet: number,
): Promise<readonly Change[]> {
  const { draftChanges: rows } = schema
  const read = await database
    .select()
    .from(rows)
    .innerJoin(schema.draftChangeSets, eq(schema.draftChangeSets.id, rows.changeSet))
    .where(
      and(
        eq(rows.changeSet, changeSet),
        eq(rows.draft, draft),
        eq(schema.draftChangeSets.isUnfinished, false),
      ),
    )
    .orderBy(asc(rows.position))
  return read.map(({ draft_change: row }) => toChange(row))
}

/** The first edit of a record after a revision of it; `null` where there is none. */
export async function editAfter(
  database: Database,
  draft: number,
  { kind, id }: Pick<Change, 'kind' | 'id'>,
  revision: number,
): Promise<Change | null> {
  const { draftChanges: rows } = schema
  const [row] = await database
    .select()
    .from(rows)
    .innerJoin(schema.draftChangeSets, eq(schema.draftChangeSets.id, rows.changeSet))
    .where(
      and(
        eq(rows.draft, draft),
        eq(rows.kind, kind),
        eq(rows.record, id),
        gt(rows.changeSet, revision),
        eq(schema.draftChangeSets.isUnfinished, false),
      ),
    )
    .orderBy(asc(rows.changeSet))
    .limit(1)
  return row ? toChange(row.draft_change) : null
}

/** Writes down edits; `onRows` is called between blocks of them. */
export async function writeEdits(
  writer: Writer,
  { draft, changeSet }: { readonly draft: number; readonly changeSet: number },
  edits: readonly DraftEdit[],
  onRows: (done: number) => Promise<void> | void,
): Promise<void> {
  for (let from = 0; from < edits.length; from += ROWS_A_WRITE) {
    await onRows(from)
    const rows = edits.slice(from, from + ROWS_A_WRITE).map(({ shown, change }, at) => ({
      change_set: changeSet,
      position: from + at,
      draft,
      kind: shown.kind,
      record: shown.id,
      before: shown.before,
      after: shown.after,
      base: change?.before ?? null,
      is_out: change === null,
    }))
    await writer.execute(sql`
      insert into ${schema.draftChanges}
      select * from jsonb_populate_recordset(null::${schema.draftChanges}, ${JSON.stringify(rows)}::jsonb)`)
  }
}

/** Held by whoever writes in a draft. */
export function lockOfDraft(draft: number): string {
  return `draft ${draft}`
}

/** Forgets what was being written in slices by a server that stopped: none of it counted yet. */
export async function forgetAbandonedEdits({
  database,
  locks,
}: Pick<OpenDatabase, 'database' | 'locks'>): Promise<void> {
  const { id, draft, isUnfinished } = schema.draftChangeSets
  const unfinished = await database
    .select({ id, draft })
    .from(schema.draftChangeSets)
    .where(eq(isUnfinished, true))
  for (const edit of unfinished)
    if (!(await locks.isHeld(lockOfDraft(edit.draft)))) await forgetUnfinishedEdit(database, edit.id)
}

/** Forgets an edit that was being written in slices. */
export async function forgetUnfinishedEdit(writer: Writer, edit: number): Promise<void> {
  const { draftChangeSets: sets, draftChanges: rows } = schema
  await writer.execute(
    sql`delete from ${rows} where change_set in (select id from ${sets} where is_unfinished and id = ${edit})`,
  )
  await writer.execute(sql`delete from ${sets} where is_unfinished and id = ${edit}`)
}

/** One edit of a draft, for those who ask what was done in it. */
export interface EditHead {
  readonly changeSet: number
  readonly at: Date
  readonly author: string
  readonly note: string
}

/** The latest edits of a draft, newest first: all, or those of one record. */
export async function latestEdits(
  database: Database,
  draft: number,
  count: number,
  record: Pick<Change, 'kind' | 'id'> | null = null,
): Promise<readonly EditHead[]> {
  const { draftChangeSets: sets, draftChanges: rows } = schema
  const counts = and(eq(sets.draft, draft), eq(sets.isUnfinished, false))
  if (record === null) {
    const read = await database.select().from(sets).where(counts).orderBy(desc(sets.id)).limit(count)
    return read.map(({ id, at, author, note }) => ({ changeSet: id, at, author, note: shownNote(note) }))
  }
  const heads = await database
    .selectDistinct({ changeSet: sets.id, at: sets.at, author: sets.author, note: sets.note })
    .from(rows)
    .innerJoin(sets, eq(sets.id, rows.changeSet))
    .where(and(counts, eq(rows.draft, draft), eq(rows.kind, record.kind), eq(rows.record, record.id)))
    .orderBy(desc(sets.id))
    .limit(count)
  return heads.map((head) => ({ ...head, note: shownNote(head.note) }))
}
