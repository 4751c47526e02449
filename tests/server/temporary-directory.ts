import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'

/** A directory of its own for a test, and how to be rid of it. */
export function temporaryDirectory(): { readonly path: string; readonly remove: () => void } {
  const path = mkdtempSync(join(tmpdir(), 'steppe-test-'))
  return { path, remove: () => rmSync(path, { recursive: true, force: true }) }
}
