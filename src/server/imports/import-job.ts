import 'server-only'

import { findByCode } from '@/core/catalogue/find-by-code'
import type { PriceList } from '@/core/price/lines/price-list'
import type { Store } from '@/core/store/store'
import { randomUUID } from 'node:crypto'
import { commit, noteChange } from '../changes/commit'
import type { CommitNote, CommitOutcome } from '../changes/commit-outcome'
import { UNCOUNTED } from '@/core/catalogue/stock'
import { countStock } from '../stock/move-stock'
import { noticeStock } from '../stock/notice-stock'
import { readStock } from '../stock/stock-levels'
import { yieldToOthers } from '../doors/slices'
import { type ChangeRequest, parseContext } from '../changes/weigh'
import { isChangedByDraft, liveView, revisionOf } from '../views/view'
import { type Steppe } from '../engine/steppe'
import {
  checkMatching,
  guessMatching,
  type ImportField,
  type ImportTarget,
  type Matching,
} from './import-field'
import { type DecimalMark, guessDecimalMark } from '@/core/decimal/written-amount'
import { lineFields, lineNeeds } from './lines/line-fields'
import { PRODUCT_NEEDS, productFields } from './products/product-fields'
import { readLines } from './lines/read-lines'
import { readProducts } from './products/read-products'
import { type ImportedTable, readTable, type TableProblem } from './read-table'
import { keepImport, keptImports, noteImport } from './import-rows'
import { type ImportJob, importJobs, isBusy, setState } from './import-state'
import type { ImportReading } from './reading'
import { currentInstant } from '@/server/clock'
import { log } from '../operations/log'

/** A table of 100,000 rows takes tens of megabytes. */
const KEPT_JOBS = 8

/** Opens a file, with its columns matched as well as its headings tell. */
export async function openImport(
  steppe: Steppe,
  target: ImportTarget,
  file: { readonly name: string; readonly bytes: Uint8Array },
): Promise<
  { readonly ok: true; readonly job: ImportJob } | { readonly ok: false; readonly problem: TableProblem }
> {
  const read = await readTable(file.bytes)
  if (!read.ok) return read
  const { table } = read
  const { store } = liveView(steppe).prepared
  const samples = table.rows.slice(0, 200).flatMap(({ cells }) => cells)
  const matching = guessMatching(table.header, fieldsOf(store, target, table))
  const job: ImportJob = {
    id: randomUUID(),
    fileName: file.name,
    target,
    table,
    startedAt: currentInstant(),
    matching,
    mark: guessDecimalMark(samples),
    state: { step: 'matching', problem: null },
    reading: null,
    asOf: steppe.lastChangeSet,
    leftOut: new Set(),
    leftOutThen: '',
    isCancelled: false,
    version: 0,
  }
  const { id, fileName, startedAt: at, mark } = job
  const row = {
    id,
    at,
    fileName,
    content: file.bytes,
    target,
    matching,
    mark,
    leftOut: [],
    step: 'matching',
  } as const
  await keepImport(steppe, row, KEPT_JOBS)
  const jobs = importJobs()
  jobs.set(id, job)
  for (const [old, { state }] of [...jobs].slice(0, -KEPT_JOBS)) if (!isBusy(state)) jobs.delete(old)
  return { ok: true, job }
}

/** Goes on with what was on its way when the server stopped; what was written already is not written again. */
export async function resumeImports(steppe: Steppe): Promise<void> {
  if (!steppe.prepared) return
  for (const kept of await keptImports(steppe)) {
    // Another process may be at it.
    if (await steppe.locks.isHeld(lockOf(kept.id))) continue
    const opened = await readTable(kept.content)
    if (!opened.ok || importJobs().has(kept.id)) continue
    const { id, fileName, target, matching, mark, step, author, changeSet, rows } = kept
    const isDone = step === 'done' && changeSet !== null
    const job: ImportJob = {
      id,
      fileName,
      target,
      table: opened.table,
      startedAt: kept.at,
      matching,
      mark,
      state: isDone ? { step: 'done', changeSet, rows: rows ?? 0 } : { step: 'matching', problem: null },
      reading: null,
      asOf: steppe.lastChangeSet,
      leftOut: new Set(kept.leftOut),
      leftOutThen: '',
      isCancelled: false,
      version: kept.version,
    }
    importJobs().set(id, job)
    if (step !== 'preview' && step !== 'writing') continue
    run(steppe, job, async () => {
      await read(steppe, job)
      if (step === 'writing' && author !== null) await write(steppe, job, author)
      else await setState(steppe, job, { step: 'preview', notice: null })
    })
  }
}

export function fieldsOf(store: Store, target: ImportTarget, table: ImportedTable): readonly ImportField[] {
  return target.kind === 'products' ? productFields(store, table.header) : lineFields(store)
}

/** Reads the rows with columns matched as given, in the background; what is wrong with the matching stands in the state. */
export function startReading(steppe: Steppe, job: ImportJob, matching: Matching, mark: DecimalMark): void {
  if (isBusy(job.state)) return
  job.matching = job.table.header.map((_, at) => matching[at] ?? null)
  job.mark = mark
  const { store } = liveView(steppe).prepared
  const needs = job.target.kind === 'products' ? PRODUCT_NEEDS : lineNeeds(store, listOf(store, job.target))
  const problem = checkMatching(job.matching, fieldsOf(store, job.target, job.table), needs)
  if (problem) {
    void setState(steppe, job, { step: 'matching', problem }).catch((error: unknown) =>
      log.error({ err: error }, 'how far an import has come could not be kept'),
    )
    return
  }
  run(steppe, job, async () => {
    await read(steppe, job)
    await noteImport(steppe.database, job, { matching: job.matching, mark, step: 'preview' })
    await setState(steppe, job, { step: 'preview', notice: null })
  })
}

/** Goes back to matching columns. */
export async function matchAgain(steppe: Steppe, job: ImportJob): Promise<void> {
  if (isBusy(job.state) || job.state.step === 'done') return
  await noteImport(steppe.database, job, { step: 'matching' })
  await setState(steppe, job, { step: 'matching', problem: null })
}

/** Takes rows out of an import, or puts them back. */
export async function leaveOut(
  steppe: Steppe,
  job: ImportJob,
  rows: readonly number[],
  out: boolean,
): Promise<void> {
  const { leftOut } = job
  for (const row of rows)
    if (out) leftOut.add(row)
    else leftOut.delete(row)
  await noteImport(steppe.database, job, { leftOut: [...leftOut] })
}

/** Stops what an import is doing; nothing of it is written then. A change set that is on disk already stays. */
export async function cancelImport(steppe: Steppe, job: ImportJob): Promise<void> {
  if (!isBusy(job.state)) return
  job.isCancelled = true
  // Another process may be at it.
  if (steppe.isShared) await noteImport(steppe.database, job, { isCancelled: true })
}

/** Writes everything that is new or changed as one change set, in the background. */
export function startWriting(steppe: Steppe, job: ImportJob, author: string): void {
  if (isBusy(job.state) || !job.reading) return
  if (isChangedByDraft({ steppe })) {
    const state = { step: 'preview', notice: 'drafts-only' } as const
    void setState(steppe, job, state).catch((error: unknown) =>
      log.error({ err: error }, 'how far an import has come could not be kept'),
    )
    return
  }
  run(steppe, job, async () => {
    await noteImport(steppe.database, job, { step: 'writing', author })
    await write(steppe, job, author)
    // What is on disk already says so itself.
    if (job.state.step !== 'done') await noteImport(steppe.database, job, { step: 'preview' })
  })
}

class Cancelled extends Error {}

/** Held by the process that works on an import. */
function lockOf(id: string): string {
  return `import ${id}`
}

function run(steppe: Steppe, job: ImportJob, work: () => Promise<void>): void {
  job.isCancelled = false
  job.state = { step: 'reading', done: 0, of: job.table.rows.length }
  const working = steppe.locks.hold(lockOf(job.id), async () => {
    if (steppe.isShared) await noteImport(steppe.database, job, { isCancelled: false, state: job.state })
    await work()
  })
  void working.catch(async (error: unknown) => {
    // Else a restart would go on with what was stopped. A database that is gone cannot be told, and then it shall go on.
    const step = job.reading ? 'preview' : 'matching'
    await noteImport(steppe.database, job, { step }).catch(() => undefined)
    await setState(steppe, job, stoppedBy(error, job)).catch(() => undefined)
  })
}

function stoppedBy(error: unknown, job: ImportJob): ImportJob['state'] {
  if (!(error instanceof Cancelled)) return { step: 'broken', message: (error as Error).message }
  return job.reading ? { step: 'preview', notice: 'cancelled' } : { step: 'matching', problem: null }
}

function listOf(store: Store, target: ImportTarget): PriceList | null {
  return target.kind === 'lines' && target.list !== null ? findByCode(store['price-list'], target.list) : null
}

/** Reads all rows; `isQuiet` where nobody is to be told how far it has come. */
export async function read(steppe: Steppe, job: ImportJob, isQuiet = false): Promise<void> {
  const { store } = liveView(steppe).prepared
  const asOf = steppe.lastChangeSet
  const leftOutThen = leftOutText(job)
  const input = {
    store,
    context: parseContext(store),
    table: job.table,
    matching: job.matching,
    mark: job.mark,
    leftOut: new Set(job.leftOut),
    stock: job.target.kind === 'products' ? await readStock(steppe.database) : UNCOUNTED,
    newId: randomUUID,
    pause: async (done: number) => {
      if (!isQuiet) await setState(steppe, job, { step: 'reading', done, of: job.table.rows.length })
      await yieldToOthers()
      if (job.isCancelled) throw new Cancelled()
    },
  }
  job.reading =
    job.target.kind === 'products'
      ? await readProducts(input)
      : await readLines({ ...input, list: listOf(store, job.target) })
  job.asOf = asOf
  job.leftOutThen = leftOutThen
}

function leftOutText({ leftOut }: ImportJob): string {
  return [...leftOut].sort((left, right) => left - right).join(' ')
}

async function write(steppe: Steppe, job: ImportJob, author: string): Promise<void> {
  const before = summary(job)
  const isStale = job.asOf !== steppe.lastChangeSet
  if (isStale || job.leftOutThen !== leftOutText(job)) {
    await read(steppe, job)
    if (isStale && summary(job) !== before)
      return setState(steppe, job, { step: 'preview', notice: 'store-changed' })
  }
  const view = liveView(steppe)
  const { drafts, outcomes, counts } = job.reading as ImportReading
  const rows = outcomes.filter(({ result }) => result === 'new' || result === 'changed').length
  const requests = drafts.map(({ kind, id, after }) => ({
    kind,
    id,
    seen: revisionOf(view, kind, id),
    after,
  })) as readonly ChangeRequest[]
  const note = `${rows} ${rows === 1 ? 'row' : 'rows'} of ${job.fileName} imported`
  const at = currentInstant()
  const written: CommitNote = {
    author,
    note,
    at,
    alongside: async (transaction, changeSet) => {
      await countStock(transaction, counts, { author, note, at, changeSet })
      await noteImport(transaction, job, { step: 'done', changeSet, rows })
    },
  }
  // A file of counts alone changes no record.
  const outcome =
    requests.length === 0 && counts.length > 0
      ? await noteChange(steppe, written)
      : await commit(view, requests, written, async (stage, done) => {
          // Every record is written twice: itself, and its line of the history.
          await setState(steppe, job, {
            ...{ step: stage, done },
            of: requests.length * (stage === 'writing' ? 2 : 1),
          })
          await yieldToOthers()
          if (job.isCancelled) throw new Cancelled()
        })
  if (outcome.ok)
    await noticeStock(
      steppe,
      counts.map(({ variant }) => variant),
    )
  await setState(steppe, job, stateAfter(outcome, rows))
}

function stateAfter(outcome: CommitOutcome, rows: number): ImportJob['state'] {
  if (outcome.ok) return { step: 'done', changeSet: outcome.changeSet, rows }
  if (outcome.code === 'invalid') return { step: 'refused', issues: outcome.issues }
  return { step: 'preview', notice: outcome.code === 'stale' ? 'store-changed' : 'nothing' }
}

/** What the preview showed, to tell whether it still holds. */
function summary({ reading }: ImportJob): string {
  return (reading?.outcomes ?? [])
    .map(({ result, effects }) => `${result} ${effects.map(({ before }) => before).join()}`)
    .join('\n')
}
