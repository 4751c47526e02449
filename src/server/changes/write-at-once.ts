import 'server-only'

import type { PreparedStore } from '@/core/engine/context/prepared-store'
import { restocked } from '@/core/engine/prepare'
import type { Change } from '@/core/store/store'
import * as schema from '../database/schema'
import type { Steppe } from '../engine/steppe'
import { revisionKey, writeChanges, writeHistory } from '../records/record-tables'
import type { Committed, CommitNote, CommitProgress } from './commit-outcome'
import type { Weighed } from './weigh'

/** Writes what has been weighed, in one transaction, and makes it what is known of the store. */
export async function writeAtOnce(
  steppe: Steppe,
  { changes, before, after }: Weighed,
  note: CommitNote,
  onProgress: CommitProgress,
): Promise<Committed> {
  const changeSet = steppe.lastChangeSet + 1
  const { author, at, undoes = null } = note
  await steppe.database.transaction(async (transaction) => {
    await transaction.insert(schema.changeSets).values({ id: changeSet, at, author, note: note.note, undoes })
    await writeHistory(transaction, changes, changeSet, (done) => onProgress('writing', done))
    await writeChanges(
      transaction,
      changes,
      () => changeSet,
      (done) => onProgress('writing', changes.length + done),
    )
    await note.alongside?.(transaction, changeSet)
  })
  steppe.sync()
  keep(steppe, after, changes, changeSet)
  return { ok: true, changeSet, changes, before, after }
}

/** What is on disk is what is known from now on. */
export function keep(
  steppe: Steppe,
  after: PreparedStore,
  changes: readonly Change[],
  changeSet: number,
): void {
  // Something may have run out since this was weighed.
  steppe.prepared = steppe.prepared ? restocked(after, steppe.prepared.store.outOfStock) : after
  steppe.broken = null
  steppe.lastChangeSet = changeSet
  noteRevisions(steppe, changes, changeSet)
}

/** What edits must have seen from now on. */
export function noteRevisions(
  { revisions }: Steppe,
  changes: readonly Pick<Change, 'kind' | 'id' | 'after'>[],
  changeSet: number,
): void {
  for (const change of changes) {
    if (change.after === null) revisions.delete(revisionKey(change))
    else revisions.set(revisionKey(change), changeSet)
  }
}
