import 'server-only'

import { and, asc, inArray, lte, sql } from 'drizzle-orm'
import { changes, changeSets } from '../database/schema'
import type { Steppe } from '../engine/steppe'

/** Up to where somebody has read: all of the changes up to this one. `null` is nothing yet. */
export interface FeedPosition {
  readonly changeSet: number
  /** Within the change set; −1 is before its first. */
  readonly position: number
}

/** One record that was changed, with what it was and what it is. */
export interface FedChange {
  readonly changeSet: number
  readonly position: number
  /** ISO 8601 instant. */
  readonly at: string
  readonly author: string
  readonly note: string
  /** The change set it took back. */
  readonly undoes: number | null
  readonly kind: string
  readonly record: string
  readonly before: unknown
  readonly after: unknown
}

/** Behind the last of any change set, as the database counts. */
const LAST = 2 ** 31 - 1

export const BEGINNING: FeedPosition = { changeSet: 0, position: -1 }

/** A position as text: `12` is behind all of change set 12, `12.3` behind its fourth change; `null` for what is no position. */
export function parseFeedPosition(text: string): FeedPosition | null {
  const [, set, position] = /^(\d{1,9})(?:\.(\d{1,9}))?$/.exec(text) ?? []
  if (set === undefined) return null
  return position === undefined
    ? { changeSet: Number(set), position: LAST }
    : { changeSet: Number(set), position: Number(position) }
}

export function feedPositionText({ changeSet, position }: FeedPosition): string {
  return `${changeSet}.${position}`
}

/**
 * The next changes of what is live behind a position, in order, at most `limit`: what happens by itself when something is sold is in
 * the ledger of the stock instead. However long the history is, a page takes as long as it is large.
 */
export async function changesBehind(
  { database, lastChangeSet }: Pick<Steppe, 'database' | 'lastChangeSet'>,
  { changeSet, position }: FeedPosition,
  limit: number,
): Promise<readonly FedChange[]> {
  const rows = await database
    .select()
    .from(changes)
    .where(
      and(
        // Compared as a pair, the primary key leads straight there.
        sql`(${changes.changeSet}, ${changes.position}) > (${changeSet}, ${position})`,
        lte(changes.changeSet, lastChangeSet),
      ),
    )
    .orderBy(asc(changes.changeSet), asc(changes.position))
    .limit(limit)
  if (rows.length === 0) return []
  const sets = await database
    .select()
    .from(changeSets)
    .where(inArray(changeSets.id, [...new Set(rows.map((row) => row.changeSet))]))
  const setOf = new Map(sets.map((set) => [set.id, set]))
  return rows.flatMap((row): readonly FedChange[] => {
    const set = setOf.get(row.changeSet)
    if (!set) return []
    return [
      {
        ...{ changeSet: row.changeSet, position: row.position, at: set.at.toISOString() },
        ...{ author: set.author, note: set.note, undoes: set.undoes },
        ...{ kind: row.kind, record: row.record, before: row.before, after: row.after },
      },
    ]
  })
}

/** All of the history behind a position as JSON Lines, a change a line, read as it is sent. */
export async function* changeLines(
  steppe: Pick<Steppe, 'database' | 'lastChangeSet'>,
  from: FeedPosition,
  atOnce: number,
): AsyncGenerator<string> {
  let behind = from
  // What is written meanwhile is for the next time.
  const until = { database: steppe.database, lastChangeSet: steppe.lastChangeSet }
  for (;;) {
    const found = await changesBehind(until, behind, atOnce)
    const last = found.at(-1)
    if (!last) return
    yield found.map((each) => `${JSON.stringify(each)}\n`).join('')
    behind = last
  }
}
