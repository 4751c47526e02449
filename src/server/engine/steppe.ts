import 'server-only'

import type { PreparedStore } from '@/core/engine/context/prepared-store'
import { join } from 'node:path'
import type { OpenDatabase, OpenOptions } from '../database/database'
import { openDatabase } from '../database/open-database'
import { undoUnfinished } from '../records/undo-unfinished'
import { forgetAbandonedEdits } from '../drafts/draft-rows'
import type { Jobs } from '../jobs/jobs'
import { type KnownState, readFirstState, type SnapshotAge } from './read-state'
import type { Turns, UnderWay } from './under-way'
import { forgetSnapshot } from '../snapshot/read-kept'
import { log } from '../operations/log'

/** The running store: the database, the prepared engine that answers for it, and the order of writes. */
export interface Steppe extends Turns, Omit<OpenDatabase, 'dump'>, KnownState {
  /** Where its files are. */
  readonly directory: string
  /** What it was read from when it was opened. */
  readonly snapshotAge: SnapshotAge
  /** Stores of the past that were looked at last, by which change sets they leave out. */
  readonly past: Map<string, PreparedStore>
  /** Who writes in each draft: one at a time. */
  readonly draftTurns: Map<number, Turns>
  /** Work that waits for its time; `null` where only the database is open. */
  jobs: Jobs | null
  /** The large change that is written in slices beside the others. */
  underWay: UnderWay | null
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
  if (options.reset) forgetSnapshot(directory)
  await opened.locks.hold('live', async () => {
    // Whoever writes a large change, or in a draft, just now still does.
    if (!(await opened.locks.isHeld('large'))) await undoUnfinished(opened.database)
    await forgetAbandonedEdits(opened)
  })
  return {
    ...opened,
    directory,
    ...(await readFirstState(opened, directory)),
    past: new Map(),
    draftTurns: new Map(),
    writing: Promise.resolve(),
    underWay: null,
    jobs: null,
  }
}
