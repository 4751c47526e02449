import 'server-only'

import { RECORD_KINDS, type RecordKind } from '@/core/issue/issue'
import { meansTheSame } from '@/core/store/same-meaning'
import { emptyStore } from '@/core/store/store'
import { commit, noteChange } from '../changes/commit'
import type { CommitNote } from '../changes/commit-outcome'
import type { ChangeRequest } from '../changes/weigh'
import { liveTarget, revisionOf } from '../views/view'
import { Slices } from '../doors/slices'
import type { Steppe } from '../engine/steppe'
import { countsThatDiffer, countStock } from '../stock/move-stock'
import { noticeStock } from '../stock/notice-stock'
import { readStock } from '../stock/stock-levels'
import { type DocumentError, readDocumentInSlices } from './store-document'

export type ImportOutcome =
  | { readonly ok: true; readonly changed: number }
  | { readonly ok: false; readonly errors: readonly DocumentError[] }

/**
 * Makes the store what a document says, as one change set: what the document does not hold is removed, and what it says
 * already is left alone. `revision` is the change set the document was made on; `null` takes the store as it is.
 *
 * Errors  `stale` when the store has moved on since, with nothing written; whatever `readDocumentInSlices` and `commit` refuse.
 */
export async function importDocument(
  steppe: Steppe,
  document: unknown,
  note: { readonly author: string; readonly at: Date },
  revision: number | null = null,
): Promise<ImportOutcome> {
  if (revision !== null && revision !== steppe.lastChangeSet) return moved(revision, steppe.lastChangeSet)
  const target = liveTarget(steppe)
  const seenAt = target.asOf
  const current = steppe.prepared?.store ?? steppe.broken?.store ?? emptyStore()
  const seen = (kind: RecordKind, id: string) => revisionOf(target, kind, id)
  const read = await readDocumentInSlices(document, current)
  if (!read.ok) return read
  const slices = new Slices()
  const requests: ChangeRequest[] = []
  for (const kind of RECORD_KINDS) {
    for (const after of read.store[kind].values()) {
      await slices.rest()
      if (meansTheSame(current[kind].get(after.id), after)) continue
      requests.push({ kind, id: after.id, seen: seen(kind, after.id), after } as ChangeRequest)
    }
    for (const id of current[kind].keys()) {
      await slices.rest()
      if (!read.store[kind].has(id)) requests.push({ kind, id, seen: seen(kind, id), after: null })
    }
  }
  // Others may have written while the document was read: then it does not say what the store is to be.
  if (revision !== null && steppe.lastChangeSet !== seenAt) return moved(seenAt, steppe.lastChangeSet)
  const levels = await readStock(steppe.database, [...read.stock.keys()])
  const counts = countsThatDiffer(levels, read.stock)
  if (requests.length === 0 && counts.length === 0) return { ok: true, changed: 0 }
  const says = { ...note, note: 'Import of a store document' }
  const written: CommitNote = {
    ...says,
    alongside: (transaction, changeSet) => countStock(transaction, counts, { ...says, changeSet }),
  }
  const outcome =
    requests.length === 0 ? await noteChange(steppe, written) : await commit(target, requests, written)
  if (outcome.ok) {
    await noticeStock(
      steppe,
      counts.map(({ variant }) => variant),
    )
    return { ok: true, changed: outcome.changes.length + counts.length }
  }
  if (outcome.code === 'nothing-to-change') return { ok: true, changed: 0 }
  if (outcome.code === 'disk-full') return fail('disk-full', `${outcome.freeBytes} bytes free`)
  if (outcome.code === 'unreadable') return fail('unreadable', outcome.why)
  if (outcome.code === 'out-of-reach') return fail('out-of-reach', outcome.label)
  if (outcome.code === 'drafts-only') return fail('drafts-only', '')
  if (outcome.code === 'no-such-draft') return fail('no-such-draft', outcome.draft)
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

function moved(from: number, to: number): ImportOutcome {
  return fail('stale', `the document is of change ${from}; the store is at ${to}`)
}

function fail(code: string, value: string): ImportOutcome {
  return { ok: false, errors: [{ code, where: '', value, expected: null }] }
}
