import 'server-only'

import { join } from 'node:path'
import { Worker } from 'node:worker_threads'

/** A file of rows: its headings, and the cells under them as text. */
export interface ImportedTable {
  readonly header: readonly string[]
  readonly rows: readonly TableRow[]
  /** What parts the cells of a CSV; a comma for a workbook. */
  readonly delimiter: string
}

interface TableRow {
  /** The number a spreadsheet shows beside it: the headings are row 1. */
  readonly number: number
  readonly cells: readonly string[]
}

/** Why a file cannot be read. */
export type TableProblem =
  | { readonly code: 'empty' }
  | { readonly code: 'no-rows' }
  | { readonly code: 'not-a-spreadsheet'; readonly found: string }
  | { readonly code: 'too-many-rows'; readonly rows: number; readonly most: number }
  | { readonly code: 'too-many-columns'; readonly columns: number; readonly most: number }
  | { readonly code: 'too-large'; readonly most: number }
  /** Reading it took too much memory or time. */
  | { readonly code: 'too-costly' }
  | { readonly code: 'broken'; readonly row: number; readonly message: string }

export type TableOutcome =
  | { readonly ok: true; readonly table: ImportedTable }
  | { readonly ok: false; readonly problem: TableProblem }

const MOST_ROWS = 250_000
const MOST_COLUMNS = 500
/** Bytes a workbook may come to when it is unpacked. */
const MOST_UNPACKED = 1_000_000_000
/** Megabytes the reading may take. */
const MEMORY = 1_024
/** Milliseconds it may take. */
const PATIENCE = 60_000

const READER = join(process.cwd(), 'src/server/imports/table-reader.mjs')

/**
 * Reads a CSV or XLSX file; which of the two it is its first bytes say, whatever it is called.
 *
 * A CSV may be parted by commas, semicolons, tabs or bars, and written in UTF-8, UTF-16 or Windows-1252. Of a
 * workbook the first sheet counts. Rows in which nothing stands are passed over. It is read in a thread of its own, with
 * bounds on rows, columns, memory and time, so that no file can hold others up or end the server.
 */
export async function readTable(bytes: Uint8Array): Promise<TableOutcome> {
  if (bytes.length === 0) return fail({ code: 'empty' })
  const isOldWorkbook = bytes[0] === 0xd0 && bytes[1] === 0xcf
  const isDocument = bytes[0] === 0x25 && bytes[1] === 0x50
  if (isOldWorkbook) return fail({ code: 'not-a-spreadsheet', found: 'XLS' })
  if (isDocument) return fail({ code: 'not-a-spreadsheet', found: 'PDF' })
  const read = await readRows(bytes)
  return 'problem' in read ? fail(read.problem) : toTable(read.rows, read.delimiter)
}

type Said =
  | { readonly kind: 'rows'; readonly rows: readonly (readonly string[])[] }
  | { readonly kind: 'done'; readonly delimiter: string }
  | { readonly kind: 'refused'; readonly problem: TableProblem }

interface ReadRows {
  readonly rows: readonly (readonly string[])[]
  readonly delimiter: string
}

function readRows(bytes: Uint8Array): Promise<ReadRows | { readonly problem: TableProblem }> {
  const worker = new Worker(READER, {
    workerData: { bytes, mostRows: MOST_ROWS, mostColumns: MOST_COLUMNS, mostUnpacked: MOST_UNPACKED },
    resourceLimits: { maxOldGenerationSizeMb: MEMORY },
    execArgv: [],
  })
  return new Promise((resolve) => {
    const rows: (readonly string[])[] = []
    const end = (outcome: Parameters<typeof resolve>[0]) => {
      clearTimeout(impatience)
      resolve(outcome)
      void worker.terminate()
    }
    const impatience = setTimeout(() => end({ problem: { code: 'too-costly' } }), PATIENCE)
    worker.on('message', (said: Said) => {
      if (said.kind === 'rows') for (const row of said.rows) rows.push(row)
      else end(said.kind === 'done' ? { rows, delimiter: said.delimiter } : { problem: said.problem })
    })
    // Out of memory, or a file no reader foresaw.
    worker.once('error', () => end({ problem: { code: 'too-costly' } }))
  })
}

function toTable(lines: readonly (readonly string[])[], delimiter: string): TableOutcome {
  const numbered = lines
    .map((cells, at) => ({ number: at + 1, cells: cells.map((cell) => cell.trim()) }))
    .filter(({ cells }) => cells.some((cell) => cell !== ''))
  const [first, ...rows] = numbered
  if (!first) return fail({ code: 'empty' })
  if (rows.length === 0) return fail({ code: 'no-rows' })
  if (rows.length > MOST_ROWS) return fail({ code: 'too-many-rows', rows: rows.length, most: MOST_ROWS })
  const width = rows
    .slice(0, 100)
    .reduce((most, { cells }) => Math.max(most, cells.length), first.cells.length)
  const header = Array.from({ length: width }, (_, at) => first.cells[at] || `Column ${at + 1}`)
  return { ok: true, table: { header, rows, delimiter } }
}

function fail(problem: TableProblem): TableOutcome {
  return { ok: false, problem }
}
