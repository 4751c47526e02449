import 'server-only'

import { findByCode } from '@/core/catalogue/find-by-code'
import type { Store } from '@/core/store/store'
import type { ImportField } from '@/server/imports/import-field'
import type { Steppe } from '@/server/engine/steppe'
import { findImport, findImports } from '@/server/imports/find-import'
import { fieldsOf } from '@/server/imports/import-job'
import type { ImportJob } from '@/server/imports/import-state'
import { LIST_PRICE } from '@/server/imports/lines/line-fields'
import { ATTRIBUTE, OPTION, OWN_PRICE } from '@/server/imports/products/product-fields'
import type { RowOutcome, RowResult } from '@/server/imports/row-outcome'
import { writeTable } from '@/server/imports/write-table'
import { refusalSentence } from '@/ui/format/refusal-sentence'
import {
  type FieldChoice,
  type ImportView,
  type ProgressView,
  type ResultCounts,
  ROWS_A_PAGE,
  type RowsView,
} from './import-view'
import { effectsText, matchingSentence, problemSentence } from './row-sentence'

const SAMPLES = 3

/** Errors  `null` when there is no such import: many others were made since. */
export async function loadImport(steppe: Steppe, store: Store, id: string): Promise<ImportView | null> {
  const job = await findImport(steppe, id)
  return job ? viewOf(store, job) : null
}

/** Imports, the latest first. */
export async function loadImports(steppe: Steppe, store: Store): Promise<readonly ImportView[]> {
  return [...(await findImports(steppe))].reverse().map((job) => viewOf(store, job))
}

function viewOf(store: Store, job: ImportJob): ImportView {
  const { id, fileName, target, table, matching, mark, reading } = job
  const list =
    target.kind === 'lines' && target.list !== null ? findByCode(store['price-list'], target.list) : null
  return {
    id,
    fileName,
    kind: target.kind,
    into: target.kind === 'products' ? 'products' : list ? `lines of ${list.name}` : 'lines of price lists',
    rowCount: table.rows.length,
    columns: table.header.map((heading, at) => ({
      heading,
      field: matching[at] ?? null,
      samples: [...new Set(table.rows.slice(0, 50).flatMap(({ cells }) => cells[at] || []))].slice(
        0,
        SAMPLES,
      ),
    })),
    fields: fieldsOf(store, target, table).map(toChoice),
    mark,
    progress: progressOf(job),
    branches: reading?.branches ?? [],
  }
}

function toChoice({ key, name }: ImportField): FieldChoice {
  const section = key.startsWith(OPTION)
    ? 'Options'
    : key.startsWith(ATTRIBUTE)
      ? 'Attributes'
      : key.startsWith(OWN_PRICE) || key.startsWith(LIST_PRICE)
        ? 'Prices'
        : 'Fields'
  return { key, name, section }
}

const WORKING = { reading: 'Reading rows', checking: 'Checking records', writing: 'Writing' } as const

const NOTICES = {
  'store-changed':
    'The store was changed since this was read, so nothing was written. This is how it stands now.',
  nothing: 'Everything in the file is in the store already.',
  cancelled: 'Stopped. Nothing was written.',
  'drafts-only':
    'This store is changed by drafts, and a file counts at once. Let changes count at once, on the sheet of the store, to write it.',
} as const

function progressOf(job: ImportJob): ProgressView {
  const { state } = job
  switch (state.step) {
    case 'matching':
      return { step: 'matching', problem: state.problem && matchingSentence(state.problem) }
    case 'reading':
    case 'checking':
    case 'writing':
      return { step: 'working', words: WORKING[state.step], done: state.done, of: state.of }
    case 'preview':
      return { step: 'preview', notice: state.notice && NOTICES[state.notice], counts: countsOf(job) }
    case 'refused':
      return {
        step: 'stopped',
        problem: refusalSentence({ code: 'invalid', issues: state.issues.slice(0, 5) }),
      }
    case 'broken':
      return { step: 'stopped', problem: `Something went wrong: ${state.message}. Nothing was written.` }
    case 'done':
      return { ...state, counts: countsOf(job) }
  }
}

function countsOf(job: ImportJob): ResultCounts {
  const counts = { new: 0, changed: 0, unchanged: 0, wrong: 0, 'left-out': 0 }
  for (const outcome of job.reading?.outcomes ?? []) counts[resultOf(job, outcome)] += 1
  return counts
}

/** A row taken out after the file was read counts as left out at once; one put back is read again when written. */
function resultOf({ leftOut }: ImportJob, { number, result }: RowOutcome): RowResult {
  return leftOut.has(number) ? 'left-out' : result === 'left-out' ? 'changed' : result
}

/** A page of the preview: rows that come to one thing, those taken out where they would stand. */
export async function loadRows(
  steppe: Steppe,
  id: string,
  result: RowResult,
  page: number,
): Promise<RowsView> {
  const job = await findImport(steppe, id)
  const rows = (job?.reading?.outcomes ?? []).filter(
    (outcome) => outcome.result === result || (outcome.result === 'left-out' && result === 'changed'),
  )
  return {
    total: rows.length,
    rows: rows.slice(page * ROWS_A_PAGE, (page + 1) * ROWS_A_PAGE).map((outcome) => ({
      number: outcome.number,
      label: outcome.label,
      result: outcome.result,
      words:
        outcome.problems.length > 0
          ? outcome.problems.map((problem) => problemSentence(problem, job?.mark ?? 'point')).join(' ')
          : effectsText(outcome.effects),
      leftOut: job?.leftOut.has(outcome.number) ?? false,
    })),
  }
}

/** The wrong rows as they stood in the file, with what is wrong behind them: to be put right and imported again. */
export async function wrongRowsFile(
  steppe: Steppe,
  id: string,
): Promise<{ readonly name: string; readonly text: string } | null> {
  const job = await findImport(steppe, id)
  if (!job?.reading) return null
  const wrong = new Map(
    job.reading.outcomes
      .filter(({ result }) => result === 'wrong')
      .map(({ number, problems }) => [
        number,
        problems.map((problem) => problemSentence(problem, job.mark)).join(' '),
      ]),
  )
  const { header, rows } = job.table
  return {
    name: `${job.fileName.replace(/\.\w+$/, '')}-wrong-rows.csv`,
    text: writeTable(
      [...header, 'Row', 'What is wrong'],
      rows
        .filter(({ number }) => wrong.has(number))
        .map(({ number, cells }) => [
          ...header.map((_, at) => cells[at] ?? ''),
          String(number),
          wrong.get(number) ?? '',
        ]),
      job.table.delimiter,
    ),
  }
}
