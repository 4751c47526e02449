import 'server-only'

import { prepare } from '@/core/engine/prepare'
import type { PreparedStore } from '@/core/engine/context/prepared-store'
import { findCulprit, proved } from '@/core/engine/prove-prepared'
import { RECORD_KINDS } from '@/core/issue/issue'
import type { Store } from '@/core/store/store'
import { sql } from 'drizzle-orm'
import { join } from 'node:path'
import type { OpenDatabase, OpenOptions, Writer } from '../database/database'
import { openDatabase } from '../database/open-database'
import { changeSets } from '../database/schema'
import { numberSeries } from '../database/selling-schema'
import { loadStore, type Revisions } from '../records/record-tables'
import { undoUnfinished } from '../records/undo-unfinished'
import { forgetAbandonedEdits } from '../drafts/draft-rows'
import type { Jobs } from '../jobs/jobs'
import type { Turns, UnderWay } from './under-way'
import { log } from '../operations/log'

/** The running store: the database, the prepared engine that answers for it, and the order of writes. */
export interface Steppe extends Turns, Omit<OpenDatabase, 'dump'> {
  /** Where its files are. */
  readonly directory: string
  revisions: Revisions
  /** `null` until somebody has set the store up, and while it is broken. */
  prepared: PreparedStore | null
  /** A store that is there and cannot be prepared; it can be exported, mended and put back. */
  broken: BrokenStore | null
  lastChangeSet: number
  /** How often stock had moved when it was last looked at. */
  stockMoves: number
  /** Stores of the past that were looked at last, by which change sets they leave out. */
  readonly past: Map<string, PreparedStore>
  /** Who writes in each draft: one at a time. */
  readonly draftTurns: Map<number, Turns>
  /** Work that waits for its time; `null` where only the database is open. */
  jobs: Jobs | null
  /** The large change that is written in slices beside the others. */
  underWay: UnderWay | null
}

/** What keeps a store from being read. */
interface BrokenStore {
  readonly store: Store
  /** The kind and code of the record that is the reason, as far as one could be found. */
  readonly record: string | null
  readonly why: string
}

// The framework evaluates this module several times in one process; the database may be opened once.
const HANDLE = Symbol.for('steppe.running')
const holder = globalThis as { [HANDLE]?: Promise<Steppe> }

/** The running store, opened when first needed. */
export function getSteppe(): Promise<Steppe> {
  if (process.env['NEXT_PHASE'] === 'phase-production-build') {
    throw new RangeError('pages must not read the store while the application is built')
  }
  return (holder[HANDLE] ??= openSteppe(process.env['STEPPE_DATA'] ?? join(process.cwd(), '.steppe/data'), {
    reset: process.env['STEPPE_RESET'] === '1',
  }))
}

/** Closes the running store, if it is open. */
export async function closeSteppe(): Promise<void> {
  const running = holder[HANDLE]
  if (!running) return
  const steppe = await running
  await steppe.jobs?.stop().catch((error: unknown) => log.error({ err: error }, 'jobs could not be ended'))
  await steppe.underWay?.ended.catch(() => undefined)
  await steppe.writing.catch(() => undefined)
  await steppe.close()
  // Not before: whoever asks while it closes would open the same directory a second time.
  delete holder[HANDLE]
}

/** Opens the store in a directory. Most callers want `getSteppe`. */
export async function openSteppe(directory: string, options: OpenOptions = {}): Promise<Steppe> {
  const opened = await openDatabase(directory, options)
  await opened.locks.hold('live', async () => {
    // Whoever writes a large change, or in a draft, just now still does.
    if (!(await opened.locks.isHeld('large'))) await undoUnfinished(opened.database)
    await forgetAbandonedEdits(opened)
  })
  return {
    ...opened,
    directory,
    ...(await readState(opened)),
    past: new Map(),
    draftTurns: new Map(),
    writing: Promise.resolve(),
    underWay: null,
    jobs: null,
  }
}

/** What is kept in memory of what the database holds. */
type KnownState = Pick<Steppe, 'prepared' | 'broken' | 'revisions' | 'lastChangeSet' | 'stockMoves'>

/** Reads all of it, as of one moment. */
export async function readState({ database }: Pick<OpenDatabase, 'database'>): Promise<KnownState> {
  const { store, revisions, head } = await database.transaction(
    async (transaction) => ({ ...(await loadStore(transaction)), head: await readHead(transaction) }),
    { isolationLevel: 'repeatable read', accessMode: 'read only' },
  )
  return { ...tryToPrepare(store), revisions, lastChangeSet: head.changeSet, stockMoves: head.stockMoves }
}

/** How far what is live has come: the last change set that counts, and how often stock has moved. */
export async function readHead(
  writer: Writer,
): Promise<{ readonly changeSet: number; readonly stockMoves: number }> {
  const { rows } = await writer.execute<{ changeSet: number; stockMoves: number }>(sql`
    select coalesce((select max(id) from ${changeSets} where not is_unfinished), 0) as "changeSet",
      (select next from ${numberSeries} where name = 'stock') as "stockMoves"`)
  return rows[0] ?? { changeSet: 0, stockMoves: 0 }
}

/** Whatever a store holds, the server starts: one that cannot be prepared is named, so that it can be mended. */
function tryToPrepare(store: Store): Pick<Steppe, 'prepared' | 'broken'> {
  if (store.settings.size === 0 && !hasRecords(store)) return { prepared: null, broken: null }
  try {
    return { prepared: proved(prepare(store)), broken: null }
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
