'use server'

import { FLAG, NUMBER, NUMBERS, TEXT, THING } from '@/server/session/argument-shapes'
import { merchantAction } from '@/server/session/permit'
import { undo, undoNote } from '@/server/changes/history'
import { toRefusal } from '@/server/changes/to-refusal'
import { liveView } from '@/server/views/view'
import { getSteppe } from '@/server/engine/steppe'
import type { DecimalMark } from '@/core/decimal/written-amount'
import { cancelImport, leaveOut, matchAgain, startReading, startWriting } from '@/server/imports/import-job'
import { findImport } from '@/server/imports/find-import'
import type { ImportJob } from '@/server/imports/import-state'
import type { RowResult } from '@/server/imports/row-outcome'
import { currentInstant } from '@/server/clock'
import { currentAuthor } from '@/server/session/author'
import { refusalSentence } from '@/ui/format/refusal-sentence'
import type { ImportView, RowsView } from './import-view'
import { loadImport, loadRows } from './load-import'

/** Where an import stands now; `null` when it is gone. */
export const importNow = merchantAction(
  'live:edit',
  [TEXT],
  async (id: string): Promise<ImportView | null> => {
    const steppe = await getSteppe()
    return loadImport(steppe, liveView(steppe).prepared.store, id)
  },
)

/** Reads the file with its columns matched as given. */
export const readFile = merchantAction(
  'live:edit',
  [TEXT, THING, TEXT],
  async (id: string, matching: readonly (string | null)[], mark: DecimalMark): Promise<ImportView | null> => {
    const steppe = await getSteppe()
    return act(id, (job) => startReading(steppe, job, matching, mark === 'comma' ? 'comma' : 'point'))
  },
)

/** Goes back to the columns. */
export const matchColumnsAgain = merchantAction(
  'live:edit',
  [TEXT],
  async (id: string): Promise<ImportView | null> => {
    const steppe = await getSteppe()
    return act(id, (job) => matchAgain(steppe, job))
  },
)

/** Takes rows out of the import, or puts them back. */
export const leaveRows = merchantAction(
  'live:edit',
  [TEXT, NUMBERS, FLAG],
  async (id: string, rows: readonly number[], out: boolean): Promise<ImportView | null> => {
    const steppe = await getSteppe()
    return act(id, (job) => leaveOut(steppe, job, rows, out))
  },
)

/** Writes what is new or changed. */
export const writeImport = merchantAction(
  'live:edit',
  [TEXT],
  async (id: string): Promise<ImportView | null> => {
    const steppe = await getSteppe()
    const author = await currentAuthor()
    return act(id, (job) => startWriting(steppe, job, author))
  },
)

/** Stops what is going on. */
export const stopImport = merchantAction(
  'live:edit',
  [TEXT],
  async (id: string): Promise<ImportView | null> => {
    const steppe = await getSteppe()
    return act(id, (job) => cancelImport(steppe, job))
  },
)

/** A page of rows of the preview. */
export const rowsOf = merchantAction(
  'live:edit',
  [TEXT, TEXT, NUMBER],
  async (id: string, result: RowResult, page: number): Promise<RowsView> => {
    return loadRows(await getSteppe(), id, result, Number.isSafeInteger(page) && page >= 0 ? page : 0)
  },
)

/** Takes everything an import changed back; resolves to what is wrong, or `null`. */
export const undoImport = merchantAction(
  'live:edit',
  [NUMBER],
  async (changeSet: number): Promise<string | null> => {
    const note = {
      author: await currentAuthor(),
      note: await undoNote(liveView(await getSteppe()), changeSet),
      at: currentInstant(),
    }
    const outcome = await undo(liveView(await getSteppe()), changeSet, note)
    return outcome.ok ? null : refusalSentence(toRefusal(outcome))
  },
)

async function act(id: string, change: (job: ImportJob) => Promise<void> | void): Promise<ImportView | null> {
  const job = await findImport(await getSteppe(), id)
  if (job) await change(job)
  return importNow(id)
}
