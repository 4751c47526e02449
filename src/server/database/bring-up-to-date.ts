import 'server-only'

import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { NewerDatabaseError, NotMigratedError } from './cannot-open'

/** Runs statements of a database's own. */
type Query = (text: string) => Promise<{ readonly rows: object[] }>

/**
 * Makes the tables what this version needs; all of it or nothing.
 *
 * Errors  rejects with `NewerDatabaseError` for a database that a later version has changed, and with `NotMigratedError` when a change of
 *         the tables fails.
 */
export async function bringUpToDate(
  query: Query,
  folder: string,
  migrate: (config: { readonly migrationsFolder: string }) => Promise<void>,
): Promise<void> {
  if ((await lastApplied(query)) > lastKnown(folder)) throw new NewerDatabaseError()
  try {
    await migrate({ migrationsFolder: folder })
  } catch (error) {
    throw new NotMigratedError(error)
  }
}

/** When the last change was made that a database has, in milliseconds; 0 for a new one. */
async function lastApplied(query: Query): Promise<number> {
  const { rows: known } = await query(
    `select to_regclass('drizzle.__drizzle_migrations') is not null as "isKnown"`,
  )
  if ((known[0] as { isKnown: boolean } | undefined)?.isKnown !== true) return 0
  const { rows } = await query('select max(created_at)::text as last from drizzle.__drizzle_migrations')
  return Number((rows[0] as { last: string | null } | undefined)?.last ?? 0)
}

function lastKnown(folder: string): number {
  const { entries } = JSON.parse(readFileSync(join(folder, 'meta/_journal.json'), 'utf8')) as {
    readonly entries: readonly { readonly when: number }[]
  }
  return Math.max(...entries.map(({ when }) => when))
}
