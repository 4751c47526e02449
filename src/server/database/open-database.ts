import 'server-only'

import { chmodSync, existsSync, mkdirSync, readFileSync, statfsSync } from 'node:fs'
import { join } from 'node:path'
import type { OpenDatabase, OpenOptions } from './database'
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
 * Errors  rejects with `DirectoryInUseError` when another process has the directory for itself.
 */
export async function openDatabase(directory: string, options: OpenOptions = {}): Promise<OpenDatabase> {
  mkdirSync(directory, { recursive: true, mode: 0o700 })
  chmodSync(directory, 0o700) // the database makes its files readable to everybody
  const server = serverOf(directory)
  const opened = server ? await openOnServer(server, options) : await openInDirectory(directory, options)
  return {
    ...opened,
    freeBytes: () => {
      const { bavail, bsize } = statfsSync(directory)
      return bavail * bsize
    },
  }
}
