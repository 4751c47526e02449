import { cpSync, mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'

/** A directory of its own for a test, and how to be rid of it. */
export function temporaryDirectory(): { readonly path: string; readonly remove: () => void } {
  const path = mkdtempSync(join(tmpdir(), 'steppe-test-'))
  return { path, remove: () => rmSync(path, { recursive: true, force: true }) }
}

/** The same, with a database in it that nobody has used yet. */
export function freshDirectory(): ReturnType<typeof temporaryDirectory> {
  const directory = temporaryDirectory()
  cpSync(process.env['STEPPE_FRESH_DATA'] as string, directory.path, { recursive: true })
  return directory
}
