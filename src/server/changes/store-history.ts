import 'server-only'

import { shownNote } from './shown-note'
import { and, count, desc, inArray, lt, lte } from 'drizzle-orm'
import * as schema from '../database/schema'
import type { Steppe } from '../engine/steppe'

/** One change of what is live. */
export interface StoreChange {
  readonly id: number
  readonly at: Date
  readonly author: string
  readonly note: string
  /** The change it took back; `null` for one that did something new. */
  readonly undoes: number | null
  /** The change that took it back; `null` while it counts. */
  readonly undoneBy: number | null
  readonly records: number
}

/**
 * What was changed live, newest first, without what happens by itself when something is sold. `before` is the number of the
 * last one shown already.
 */
export async function storeHistory(
  { database, lastChangeSet }: Steppe,
  { before, limit }: { readonly before: number | null; readonly limit: number },
): Promise<readonly StoreChange[]> {
  const { changeSets: sets, changes } = schema
  const rows = await database
    .select()
    .from(sets)
    .where(and(lte(sets.id, lastChangeSet), before === null ? undefined : lt(sets.id, before)))
    .orderBy(desc(sets.id))
    .limit(limit)
  const ids = rows.map(({ id }) => id)
  if (ids.length === 0) return []
  const [undone, counts] = await Promise.all([
    database.select().from(sets).where(inArray(sets.undoes, ids)),
    database
      .select({ id: changes.changeSet, records: count() })
      .from(changes)
      .where(inArray(changes.changeSet, ids))
      .groupBy(changes.changeSet),
  ])
  const undoneBy = new Map(undone.map(({ id, undoes }) => [undoes, id]))
  const recordsOf = new Map(counts.map(({ id, records }) => [id, records]))
  return rows.map(({ id, at, author, note, undoes }) => ({
    id,
    at,
    author,
    note: shownNote(note),
    undoes,
    undoneBy: undoneBy.get(id) ?? null,
    records: recordsOf.get(id) ?? 0,
  }))
}
