import 'server-only'

import { RECORD_KINDS, type RecordKind } from '@/core/issue/issue'
import type { Store } from '@/core/store/store'
import { Slices } from '../doors/slices'
import type { Steppe } from '../engine/steppe'
import { log } from '../operations/log'
import { fieldsOf, type Revisions, revisionKey } from '../records/record-tables'
import { markOf, snapshotFile, snapshotShape } from './read-kept'
import { writeSnapshot } from './snapshot-file'

/** A store of fewer records is read as quickly from the database. */
const FEWEST_RECORDS = 20_000
/** With as many changes on top of it a snapshot is made anew. */
const MOST_ON_TOP = 1_000
/** More bytes than a record takes in a snapshot. */
const BYTES_A_RECORD = 1_000

/**
 * Keeps what was read when the process started for its next start, while others are served. Without it, the next start takes longer
 * and is right all the same, so that what goes wrong here is only told.
 */
export async function keepSnapshot(steppe: Steppe, fewest = FEWEST_RECORDS): Promise<void> {
  const { prepared, revisions, lastChangeSet, snapshotAge } = steppe
  if (!prepared || revisions.size < fewest) return
  if (snapshotAge !== null && snapshotAge <= MOST_ON_TOP) return
  if (steppe.freeBytes() < 2 * revisions.size * BYTES_A_RECORD) return
  try {
    const mark = await markOf(steppe.database, lastChangeSet)
    if (mark === null) return
    const slices = new Slices()
    const head = { changeSet: lastChangeSet, mark, shape: snapshotShape() }
    const rows = new Map(RECORD_KINDS.map((kind) => [kind, rowsOf(prepared.store, revisions, kind)]))
    await writeSnapshot(snapshotFile(steppe.directory), head, rows, () => slices.rest())
  } catch (error) {
    log.error({ err: error }, 'the snapshot for a quick start could not be kept')
  }
}

/** A record that changes meanwhile has a later revision here already, which whoever reads this puts there again. */
function* rowsOf(store: Store, revisions: Revisions, kind: RecordKind): Generator<readonly unknown[]> {
  const fields = fieldsOf(kind)
  for (const record of store[kind].values()) {
    const known = record as unknown as Readonly<Record<string, unknown>>
    yield fields.map((field) =>
      field === 'revision' ? (revisions.get(revisionKey({ kind, id: record.id })) ?? 0) : known[field],
    )
  }
}
