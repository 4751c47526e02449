import 'server-only'

import { eq, lt, sql } from 'drizzle-orm'
import { currentInstant } from '../clock'
import { doorTries } from '../database/door-schema'
import type { Database } from '../database/database'

const MINUTE = 60_000
/** Wrong tries are forgotten after so long without another. */
const FORGOTTEN_AFTER = 15 * MINUTE

/** How many wrong tries there may be before nobody is listened to for a while. */
const MOST: Readonly<Record<TryKind, number>> = { person: 5, address: 40, code: 10 }

/** Whose tries are counted: those on one person, those from one address, those at one code. */
type TryKind = 'person' | 'address' | 'code'

export interface TriedBy {
  readonly kind: TryKind
  /** Such as `staff nora@example.org`. */
  readonly key: string
}

/** Minutes until somebody is listened to again; 0 for at once. */
export async function minutesToWait(database: Database, tried: readonly TriedBy[]): Promise<number> {
  const now = currentInstant().getTime()
  const waits = await Promise.all(
    tried.map(async ({ kind, key }) => {
      const found = await database.query.doorTries.findFirst({ where: eq(doorTries.key, keyOf(kind, key)) })
      if (!found || found.count < MOST[kind]) return 0
      return Math.ceil((found.since.getTime() + FORGOTTEN_AFTER - now) / MINUTE)
    }),
  )
  return Math.max(0, ...waits)
}

/** Counts a try before anybody knows whether it is a good one, so that many at once are counted too. */
export async function countTry(database: Database, tried: readonly TriedBy[]): Promise<void> {
  const at = currentInstant()
  const old = new Date(at.getTime() - FORGOTTEN_AFTER)
  await database.delete(doorTries).where(lt(doorTries.since, old))
  for (const { kind, key } of tried)
    await database
      .insert(doorTries)
      .values({ key: keyOf(kind, key), count: 1, since: at })
      .onConflictDoUpdate({
        target: doorTries.key,
        set: { count: sql`${doorTries.count} + 1`, since: at },
      })
}

/**
 * A good one takes the wrong ones on the same person before it back, and no more than itself from its address: whoever has a
 * password of their own does not guess others' for ever.
 */
export async function forgetTries(database: Database, tried: readonly TriedBy[]): Promise<void> {
  for (const { kind, key } of tried) {
    const itself = eq(doorTries.key, keyOf(kind, key))
    if (kind === 'address')
      await database
        .update(doorTries)
        .set({ count: sql`${doorTries.count} - 1` })
        .where(itself)
    else await database.delete(doorTries).where(itself)
  }
}

function keyOf(kind: TryKind, key: string): string {
  return `${kind} ${key}`.slice(0, 300)
}
