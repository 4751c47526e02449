import 'server-only'

import { type Change, reverseChanges } from '@/core/store/store'
import { and, asc, desc, eq, sql } from 'drizzle-orm'
import type { Database, Writer } from '../database/database'
import * as schema from '../database/schema'
import { forgetHistory, revisionKey, writeChanges } from './record-tables'

/** A change as the history holds it. */
export function toChange(row: { kind: string; record: string; before: unknown; after: unknown }): Change {
  return { kind: row.kind, id: row.record, before: row.before, after: row.after } as Change
}

/** Undoes what a server was writing in slices when it stopped: none of it counted yet. */
export async function undoUnfinished(database: Database): Promise<void> {
  const { changeSets, changes } = schema
  const unfinished = await database
    .select({ id: changeSets.id })
    .from(changeSets)
    .where(eq(changeSets.isUnfinished, true))
    .orderBy(desc(changeSets.id))
  for (const { id } of unfinished)
    await database.transaction(async (transaction) => {
      // Waits for a slice that is just being written; after it none is.
      const own = await transaction
        .select({ id: changeSets.id })
        .from(changeSets)
        .where(and(eq(changeSets.id, id), eq(changeSets.isUnfinished, true)))
        .for('update')
      if (own.length === 0) return
      const rows = await transaction
        .select()
        .from(changes)
        .where(eq(changes.changeSet, id))
        .orderBy(asc(changes.position))
      const revisions = await revisionsBefore(transaction, id)
      const back = reverseChanges(rows.map(toChange))
      const nothing = () => undefined
      await writeChanges(transaction, back, (record) => revisions.get(revisionKey(record)) ?? 1, nothing)
      await forgetHistory(transaction, id, nothing)
    })
}

/** The change sets that wrote the records of one before it did. */
async function revisionsBefore(writer: Writer, changeSet: number): Promise<ReadonlyMap<string, number>> {
  const { rows } = await writer.execute<{ kind: string; id: string; revision: number }>(sql`
    select earlier.kind, earlier.record as id, max(earlier.change_set) as revision
    from ${schema.changes} as earlier
    join ${schema.changes} as own on own.kind = earlier.kind and own.record = earlier.record
    where own.change_set = ${changeSet} and earlier.change_set < ${changeSet}
    group by earlier.kind, earlier.record`)
  return new Map(
    rows.map(({ kind, id, revision }) => [revisionKey({ kind: kind as Change['kind'], id }), revision]),
  )
}
