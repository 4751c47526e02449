import 'server-only'

import type { PreparedStore } from '@/core/engine/context/prepared-store'
import { prepareInSteps } from '@/core/engine/prepare'
import { findCulprit, proved } from '@/core/engine/prove-prepared'
import { RECORD_KINDS } from '@/core/issue/issue'
import type { Store } from '@/core/store/store'
import { sql } from 'drizzle-orm'
import type { Database, OpenDatabase, Writer } from '../database/database'
import { changeSets } from '../database/schema'
import { numberSeries } from '../database/selling-schema'
import { Slices, yieldToOthers } from '../doors/slices'
import { log } from '../operations/log'
import { noteStart } from '../operations/start-progress'
import { countRecords, loadStore, type Revisions } from '../records/record-tables'
import { readKept } from '../snapshot/read-kept'

/** What is kept in memory of what the database holds. */
export interface KnownState {
  revisions: Revisions
  /** `null` until somebody has set the store up, and while it is broken. */
  prepared: PreparedStore | null
  /** A store that is there and cannot be prepared; it can be exported, mended and put back. */
  broken: BrokenStore | null
  lastChangeSet: number
  /** How often stock had moved when it was last looked at. */
  stockMoves: number
}

/** What keeps a store from being read. */
interface BrokenStore {
  readonly store: Store
  /** The kind and code of the record that is the reason, as far as one could be found. */
  readonly record: string | null
  readonly why: string
}

/** How many records had changed since the snapshot that was read; `null` where all was read from the database. */
export type SnapshotAge = number | null

/** Reads all of it, as of one moment. */
export async function readState({ database }: Pick<OpenDatabase, 'database'>): Promise<KnownState> {
  const { store, revisions, head } = await asOfOneMoment(database, async (transaction) => ({
    ...(await loadStore(transaction)),
    head: await readHead(transaction),
  }))
  return known(store, revisions, head)
}

/** The same when a process starts: from the snapshot of the last start, where there is one, and what changed since. */
export async function readFirstState(
  { database }: Pick<OpenDatabase, 'database'>,
  directory: string,
): Promise<KnownState & { readonly snapshotAge: SnapshotAge }> {
  const { store, revisions, head, age } =
    (await readKept(directory, database, readHead)) ?? (await readRows(database))
  noteStart('preparing')
  return { ...(await known(store, revisions, head)), snapshotAge: age }
}

async function readRows(database: Database) {
  return asOfOneMoment(database, async (transaction) => {
    const counted = await countRecords(transaction)
    const of = counted.reduce((sum, { count }) => sum + count, 0)
    const onRows = async (done: number) => {
      noteStart('reading', done, of)
      // The database in this process would let nobody in before all is read.
      await yieldToOthers()
    }
    const loaded = await loadStore(transaction, onRows)
    return { ...loaded, head: await readHead(transaction), age: null }
  })
}

function asOfOneMoment<Result>(
  database: Database,
  read: (transaction: Writer) => Promise<Result>,
): Promise<Result> {
  return database.transaction(read, { isolationLevel: 'repeatable read', accessMode: 'read only' })
}

/** How far what is live has come. */
interface Head {
  /** The last change set that counts. */
  readonly changeSet: number
  /** How often stock has moved. */
  readonly stockMoves: number
}

/** How far what is live has come now. */
export async function readHead(writer: Writer): Promise<Head> {
  const { rows } = await writer.execute<{ changeSet: number; stockMoves: number }>(sql`
    select coalesce((select max(id) from ${changeSets} where not is_unfinished), 0) as "changeSet",
      (select next from ${numberSeries} where name = 'stock') as "stockMoves"`)
  return rows[0] ?? { changeSet: 0, stockMoves: 0 }
}

async function known(
  store: Store,
  revisions: Revisions,
  { changeSet, stockMoves }: Head,
): Promise<KnownState> {
  return { ...(await tryToPrepare(store)), revisions, lastChangeSet: changeSet, stockMoves }
}

/** Whatever a store holds, the server starts: one that cannot be prepared is named, so that it can be mended. */
async function tryToPrepare(store: Store): Promise<Pick<KnownState, 'prepared' | 'broken'>> {
  if (store.settings.size === 0 && !hasRecords(store)) return { prepared: null, broken: null }
  try {
    return { prepared: proved(await new Slices().run(prepareInSteps(store))), broken: null }
  } catch (error) {
    const why = error instanceof Error ? error.message : String(error)
    const record = findCulprit(store)
    log.error(`The store cannot be read${record ? `, because of ${record}` : ''}: ${why}`)
    return { prepared: null, broken: { store, record, why } }
  }
}

function hasRecords(store: Store): boolean {
  return RECORD_KINDS.some((kind) => store[kind].size > 0)
}
