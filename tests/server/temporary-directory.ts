import { execFileSync } from 'node:child_process'
import { cpSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { basename, join } from 'node:path'

/** The PostgreSQL server tests run on; `null` where each directory holds its database itself. */
const SERVER = process.env['STEPPE_TEST_SERVER'] ?? null

/** The file in which a directory says where its database is. */
const NAMED = 'database-url'

/** Whether data directories have their databases on a server. */
export const isOnServer = SERVER !== null

/** A directory of its own for a test, and how to be rid of it. */
export function temporaryDirectory(): { readonly path: string; readonly remove: () => void } {
  const path = mkdtempSync(join(tmpdir(), 'steppe-test-'))
  const name = makeDatabase(path, null)
  return { path, remove: () => removeDirectory(path, name) }
}

/** The same, with a database in it that nobody has used yet. */
export function freshDirectory(): ReturnType<typeof temporaryDirectory> {
  const path = mkdtempSync(join(tmpdir(), 'steppe-test-'))
  const fresh = process.env['STEPPE_FRESH_DATA'] as string
  cpSync(fresh, path, { recursive: true })
  const name = makeDatabase(path, fresh)
  return { path, remove: () => removeDirectory(path, name) }
}

/** What the database of a directory is called on the server. */
export function databaseOf(directory: string): string {
  return basename(directory).toLowerCase()
}

/** Gives a directory its database on the server, if tests run on one: a copy of that of another directory, or an empty one. */
export function makeDatabase(directory: string, from: string | null): string | null {
  if (!SERVER) return null
  const name = databaseOf(directory)
  onServer('create', name, ...(from === null ? [] : [basename(readFileSync(join(from, NAMED), 'utf8'))]))
  writeFileSync(join(directory, NAMED), SERVER.replace(/[^/]*$/, name))
  return name
}

/** Takes a directory away, and its database on the server. */
export function removeDirectory(path: string, database: string | null): void {
  rmSync(path, { recursive: true, force: true })
  if (database !== null) onServer('drop', database)
}

function onServer(...args: readonly string[]): void {
  execFileSync(process.execPath, ['tests/server/server-database.mjs', ...args])
}
