import 'server-only'

import { RECORD_KINDS, type RecordKind } from '@/core/issue/issue'
import { applyInSteps, emptyStore, type Store } from '@/core/store/store'
import { and, asc, eq, gt, lte } from 'drizzle-orm'
import { createHash } from 'node:crypto'
import { readdirSync, rmSync } from 'node:fs'
import { join } from 'node:path'
import { netChanges } from '../changes/net-changes'
import { type Database, MIGRATIONS, type Writer } from '../database/database'
import { changes, changeSets } from '../database/schema'
import { Slices } from '../doors/slices'
import { noteStart } from '../operations/start-progress'
import { countRecords, fieldsOf, recordOf, type Revisions, revisionKey } from '../records/record-tables'
import { toChange } from '../records/undo-unfinished'
import { readOutOfStock } from '../stock/stock-levels'
import { readSnapshot } from './snapshot-file'

/** Where the snapshot of a data directory lies. It is nobody's truth: whoever removes it has the next start take longer. */
export function snapshotFile(directory: string): string {
  return join(directory, 'snapshot', 'store.jsonl')
}

/** A store that begins anew may look like the one before. */
export function forgetSnapshot(directory: string): void {
  rmSync(snapshotFile(directory), { force: true })
}

/** Beyond so many changes since, reading everything anew is quicker. */
const MOST_CHANGES = 50_000

/**
 * The store of the last snapshot with everything that was changed since, as of one moment.
 *
 * Errors  resolves to `null` when there is no snapshot, or any doubt about it: it is damaged, another program's or another
 *         database's, or not as many records are there as the database holds.
 */
export async function readKept<Head extends { readonly changeSet: number }>(
  directory: string,
  database: Database,
  readHead: (writer: Writer) => Promise<Head>,
): Promise<{
  readonly store: Store
  readonly revisions: Revisions
  readonly head: Head
  readonly age: number
} | null> {
  const records = new Map<RecordKind, Map<string, unknown>>(RECORD_KINDS.map((kind) => [kind, new Map()]))
  const revisions: Revisions = new Map()
  let done = 0
  const kept = await readSnapshot(snapshotFile(directory), snapshotShape(), (kind, columns) => {
    takeRows(kind, columns, records.get(kind), revisions)
    done += columns[0]?.length ?? 0
    noteStart('reading', done)
  })
  if (!kept) return null
  return database.transaction(
    async (transaction) => {
      const mark = await markOf(transaction, kept.changeSet)
      if (mark !== kept.mark) return null
      const head = await readHead(transaction)
      const rows = await transaction
        .select()
        .from(changes)
        .where(and(gt(changes.changeSet, kept.changeSet), lte(changes.changeSet, head.changeSet)))
        .orderBy(asc(changes.changeSet), asc(changes.position))
        .limit(MOST_CHANGES + 1)
      if (rows.length > MOST_CHANGES) return null
      const before = {
        ...emptyStore(),
        ...Object.fromEntries(records),
        outOfStock: await readOutOfStock(transaction),
      } as Store
      const since = netChanges(before, rows.map(toChange))
      const store = await new Slices().run(applyInSteps(before, since))
      for (const row of rows) {
        const change = toChange(row)
        if (change.after === null) revisions.delete(revisionKey(change))
        else revisions.set(revisionKey(change), row.changeSet)
      }
      return (await holdsAsMany(transaction, store)) ? { store, revisions, head, age: since.length } : null
    },
    { isolationLevel: 'repeatable read', accessMode: 'read only' },
  )
}

function takeRows(
  kind: RecordKind,
  columns: readonly (readonly unknown[])[],
  records: Map<string, unknown> | undefined,
  revisions: Revisions,
): void {
  const fields = fieldsOf(kind)
  for (let row = 0; row < (columns[0]?.length ?? 0); row += 1) {
    const { id, record, revision } = recordOf(fields, (at) => columns[at]?.[row])
    records?.set(id, record)
    revisions.set(revisionKey({ kind, id }), revision)
  }
}

/** What a snapshot has to agree with this program in: the fields of every kind of record, and the last migration. */
export function snapshotShape(): string {
  const fields = RECORD_KINDS.map((kind) => [kind, fieldsOf(kind)])
  const migration = readdirSync(MIGRATIONS)
    .filter((name) => name.endsWith('.sql'))
    .sort()
    .at(-1)
  return createHash('sha256')
    .update(JSON.stringify([fields, migration]))
    .digest('hex')
}

/** What tells a change set from the one of the same number in another database; `null` when there is none. */
export async function markOf(writer: Pick<Database, 'select'>, changeSet: number): Promise<string | null> {
  const [found] = await writer
    .select({ at: changeSets.at, author: changeSets.author, note: changeSets.note })
    .from(changeSets)
    .where(and(eq(changeSets.id, changeSet), eq(changeSets.isUnfinished, false)))
  if (!found) return null
  return createHash('sha256')
    .update(JSON.stringify([found.at.toISOString(), found.author, found.note]))
    .digest('hex')
}

async function holdsAsMany(writer: Writer, store: Store): Promise<boolean> {
  const counted = await countRecords(writer)
  return counted.every(({ kind, count }) => store[kind].size === count)
}
