import 'server-only'

import { RECORD_KINDS } from '@/core/issue/issue'
import { emptyStore } from '@/core/store/store'
import { type ChangeRequest, commit } from '../changes/commit'
import { revisionOf } from '../changes/history'
import type { Steppe } from '../engine/steppe'
import { type DocumentError, readDocument } from './store-document'

export type ImportOutcome =
  | { readonly ok: true; readonly changed: number }
  | { readonly ok: false; readonly errors: readonly DocumentError[] }

/** Makes the store what a document says, as one change set: what the document does not hold is removed. */
export async function importDocument(
  steppe: Steppe,
  document: unknown,
  note: { readonly author: string; readonly at: Date },
): Promise<ImportOutcome> {
  const read = readDocument(document)
  if (!read.ok) return read
  const current = steppe.prepared?.store ?? emptyStore()
  const requests = RECORD_KINDS.flatMap((kind) => {
    const kept = [...read.store[kind].values()].map((after) => ({
      kind,
      id: after.id,
      seen: revisionOf(steppe, kind, after.id),
      after,
    }))
    const gone = [...current[kind].keys()]
      .filter((id) => !read.store[kind].has(id))
      .map((id) => ({ kind, id, seen: revisionOf(steppe, kind, id), after: null }))
    return [...kept, ...gone]
  })
  const outcome = await commit(steppe, requests as readonly ChangeRequest[], {
    ...note,
    note: 'Import of a store document',
  })
  if (outcome.ok) return { ok: true, changed: outcome.changes.length }
  if (outcome.code === 'nothing-to-change') return { ok: true, changed: 0 }
  if (outcome.code === 'stale') return fail('stale', outcome.conflicts.map(({ label }) => label).join(', '))
  return {
    ok: false,
    errors: outcome.issues.map(({ code, kind, label, field, value, expected }) => ({
      code,
      where: `${kind} ${label}.${field}`,
      value,
      expected,
    })),
  }
}

function fail(code: string, value: string): ImportOutcome {
  return { ok: false, errors: [{ code, where: '', value, expected: null }] }
}
