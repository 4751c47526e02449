import 'server-only'

import { chmodSync, existsSync, mkdirSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import type { OpenDatabase, OpenOptions } from './database'
import { bytesFree } from './disk-room'
import { openInDirectory } from './pglite-directory'
import { openOnServer } from './postgres-server'

/**
 * The PostgreSQL server the database of a data directory is on: DATABASE_URL, else what the file `database-url` in the directory says;
 * `null` where it lies in the directory itself.
 */
function serverOf(directory: string): string | null {
  const named = process.env['DATABASE_URL']
  if (named) return named
  const file = join(directory, 'database-url')
  return existsSync(file) ? readFileSync(file, 'utf8').trim() : null
}

/**
 * Opens the database of a data directory with all migrations applied: for this process alone where it lies in the directory, beside
 * others where it is on a server.
 *
 * Errors  rejects with a `CannotOpenError` that says why, and what to do.
 */
export async function openDatabase(directory: string, options: OpenOptions = {}): Promise<OpenDatabase> {
  mkdirSync(directory, { recursive: true, mode: 0o700 })
  chmodSync(directory, 0o700) // the database makes its files readable to everybody
  const server = serverOf(directory)
  if (!server) return openInDirectory(directory, options)
  return { ...(await openOnServer(server, options)), freeBytes: () => bytesFree(directory) }
}
