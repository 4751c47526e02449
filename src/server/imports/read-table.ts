import 'server-only'

import Papa from 'papaparse'
import readExcel from 'read-excel-file/node'

/** A file of rows: its headings, and the cells under them as text. */
export interface ImportedTable {
  readonly header: readonly string[]
  readonly rows: readonly TableRow[]
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
  | { readonly code: 'broken'; readonly row: number; readonly message: string }

export type TableOutcome =
  | { readonly ok: true; readonly table: ImportedTable }
  | { readonly ok: false; readonly problem: TableProblem }

const MOST_ROWS = 250_000

/**
 * Reads a CSV or XLSX file; which of the two it is its first bytes say, whatever it is called.
 *
 * A CSV may be parted by commas, semicolons, tabs or bars, and written in UTF-8, UTF-16 or Windows-1252. Of a
 * workbook the first sheet counts. Rows in which nothing stands are passed over.
 */
export async function readTable(bytes: Uint8Array): Promise<TableOutcome> {
  if (bytes.length === 0) return fail({ code: 'empty' })
  const isZip = bytes[0] === 0x50 && bytes[1] === 0x4b
  const isOldWorkbook = bytes[0] === 0xd0 && bytes[1] === 0xcf
  const isDocument = bytes[0] === 0x25 && bytes[1] === 0x50
  if (isOldWorkbook) return fail({ code: 'not-a-spreadsheet', found: 'XLS' })
  if (isDocument) return fail({ code: 'not-a-spreadsheet', found: 'PDF' })
  return isZip ? readWorkbook(bytes) : readText(decode(bytes))
}

async function readWorkbook(bytes: Uint8Array): Promise<TableOutcome> {
  let sheets: readonly { readonly data: readonly (readonly unknown[])[] }[]
  try {
    sheets = await readExcel(Buffer.from(bytes), { parseNumber: (text) => text, trim: true })
  } catch {
    return fail({ code: 'not-a-spreadsheet', found: 'ZIP' })
  }
  const rows = (sheets[0]?.data ?? []).map((row) => row.map(workbookText))
  return toTable(rows)
}

/** Digits a spreadsheet keeps of a number. Behind them its own binary fractions show: 19.899999999999999 is 19.9. */
const SPREADSHEET_DIGITS = 15

function workbookText(value: unknown): string {
  if (value === null || value === undefined) return ''
  if (value instanceof Date) return value.toISOString().slice(0, 10)
  const text = String(value).trim()
  const isLongNumber = /^-?\d*\.?\d+(e[+-]?\d+)?$/i.test(text) && /[.e]/i.test(text)
  return isLongNumber ? plainNumber(text) : text
}

function plainNumber(text: string): string {
  const [whole = '', exponent] = Number(text).toPrecision(SPREADSHEET_DIGITS).split('e')
  const plain = whole.includes('.') ? whole.replace(/0+$/, '').replace(/\.$/, '') : whole
  return exponent === undefined
    ? plain
    : Number(text).toLocaleString('en', { useGrouping: false, maximumFractionDigits: 20 })
}

function decode(bytes: Uint8Array): string {
  if (bytes[0] === 0xff && bytes[1] === 0xfe) return new TextDecoder('utf-16le').decode(bytes)
  if (bytes[0] === 0xfe && bytes[1] === 0xff) return new TextDecoder('utf-16be').decode(bytes)
  try {
    return new TextDecoder('utf-8', { fatal: true }).decode(bytes)
  } catch {
    return new TextDecoder('windows-1252').decode(bytes)
  }
}

function readText(text: string): TableOutcome {
  if (text.includes('\u0000')) return fail({ code: 'not-a-spreadsheet', found: 'something else' })
  const { data, errors } = Papa.parse<string[]>(text, {
    delimiter: delimiterOf(text),
    skipEmptyLines: false,
  })
  const broken = errors.find(({ type }) => type === 'Quotes')
  if (broken) return fail({ code: 'broken', row: (broken.row ?? 0) + 1, message: broken.message })
  return toTable(data)
}

/** The sign that parts the headings: they rarely hold another of these, while texts and amounts below them do. */
function delimiterOf(text: string): string {
  const headings = /^\s*([^\r\n]*)/.exec(text)?.[1]?.replace(/"[^"]*"/g, '') ?? ''
  const count = (sign: string) => headings.split(sign).length
  return [',', ';', '\t', '|'].reduce((best, sign) => (count(sign) > count(best) ? sign : best))
}

function toTable(lines: readonly (readonly string[])[]): TableOutcome {
  const numbered = lines
    .map((cells, at) => ({ number: at + 1, cells: cells.map((cell) => cell.trim()) }))
    .filter(({ cells }) => cells.some((cell) => cell !== ''))
  const [first, ...rows] = numbered
  if (!first) return fail({ code: 'empty' })
  if (rows.length === 0) return fail({ code: 'no-rows' })
  if (rows.length > MOST_ROWS) return fail({ code: 'too-many-rows', rows: rows.length, most: MOST_ROWS })
  const width = Math.max(first.cells.length, ...rows.slice(0, 100).map(({ cells }) => cells.length))
  const header = Array.from({ length: width }, (_, at) => first.cells[at] || `Column ${at + 1}`)
  return { ok: true, table: { header, rows } }
}

function fail(problem: TableProblem): TableOutcome {
  return { ok: false, problem }
}
