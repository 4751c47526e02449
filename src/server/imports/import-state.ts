import 'server-only'

import type { DecimalMark } from '@/core/decimal/written-amount'
import type { Steppe } from '../engine/steppe'
import type { ImportTarget, Matching } from './import-field'
import type { ImportState } from './import-progress'
import { noteImport } from './import-rows'
import type { ImportedTable } from './read-table'
import type { ImportReading } from './reading'

/**
 * A file on its way into the store. Leaving the page leaves it running; how far it has come stands in the database too, so that it
 * goes on after a restart, and is written once.
 */
export interface ImportJob {
  readonly id: string
  readonly fileName: string
  readonly target: ImportTarget
  readonly table: ImportedTable
  readonly startedAt: Date
  matching: Matching
  mark: DecimalMark
  state: ImportState
  reading: ImportReading | null
  /** The change set the reading is as of. */
  asOf: number
  readonly leftOut: Set<number>
  /** Rows left out when the reading was made. */
  leftOutThen: string
  isCancelled: boolean
  /** How much of what is written of it is known here. */
  version: number
}

const HANDLE = Symbol.for('steppe.imports')
const holder = globalThis as { [HANDLE]?: Map<string, ImportJob> }

/** Imports by id, the latest last. */
export function importJobs(): Map<string, ImportJob> {
  return (holder[HANDLE] ??= new Map())
}

/** Whether some process works on it. */
export function isBusy({ step }: ImportState): boolean {
  return step === 'reading' || step === 'checking' || step === 'writing'
}

/** Milliseconds between two times other processes are told how far it has come. */
const TOLD_EVERY = 500

const told = new WeakMap<ImportJob, number>()

/** Says how far it has come: here at once, to other processes now and then. Whoever wants it to end is heard then. */
export async function setState(steppe: Steppe, job: ImportJob, state: ImportState): Promise<void> {
  const isNext = job.state.step !== state.step
  job.state = state
  if (!steppe.isShared) return
  if (!isNext && Date.now() - (told.get(job) ?? 0) < TOLD_EVERY) return
  told.set(job, Date.now())
  if (await noteImport(steppe.database, job, { state })) job.isCancelled = true
}
