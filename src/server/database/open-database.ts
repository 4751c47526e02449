import 'server-only'

import { chmodSync, closeSync, fdatasyncSync, mkdirSync, openSync, readdirSync, rmSync } from 'node:fs'
import { join } from 'node:path'
import { PGlite } from '@electric-sql/pglite'
import { drizzle, type PgliteDatabase } from 'drizzle-orm/pglite'
import { migrate } from 'drizzle-orm/pglite/migrator'
import { lockDirectory } from './directory-lock'
import * as schema from './schema'

export type Database = PgliteDatabase<typeof schema>

export interface OpenDatabase {
  readonly database: Database
  /** Forces what has been committed onto the disk. */
  sync(): void
  close(): Promise<void>
}

const MIGRATIONS = join(process.cwd(), 'src/server/database/migrations')

/**
 * Opens the database in a directory, for this process alone, with all migrations applied.
 *
 * `reset` throws away what is in it first.
 *
 * Errors  rejects with `DirectoryInUseError` when another process has the directory; then nothing is lost.
 */
export async function openDatabase(
  directory: string,
  { reset = false }: { readonly reset?: boolean } = {},
): Promise<OpenDatabase> {
  mkdirSync(directory, { recursive: true, mode: 0o700 })
  chmodSync(directory, 0o700) // the database makes its files readable to everybody
  const lock = await lockDirectory(directory)
  const files = join(directory, 'database')
  if (reset) rmSync(files, { recursive: true, force: true })
  const client = await PGlite.create(files)
  const database = drizzle(client, { schema })
  await migrate(database, { migrationsFolder: MIGRATIONS })
  return {
    database,
    sync: () => syncWriteAheadLog(join(files, 'pg_wal')),
    close: async () => {
      await client.close()
      lock.close()
    },
  }
}

/** The database itself never asks the disk to keep its word, so a power cut could take commits back. */
function syncWriteAheadLog(folder: string): void {
  for (const entry of readdirSync(folder, { withFileTypes: true })) {
    if (!entry.isFile()) continue
    const file = openSync(join(folder, entry.name), 'r+')
    fdatasyncSync(file)
    closeSync(file)
  }
}
