// Reads a CSV or XLSX file in a thread of its own with a memory of its own: a small file can ask for a lot of it.
// Told the bytes, it says rows of texts in blocks, then that it is done, or what is wrong.
import { unzipSync } from 'fflate'
import Papa from 'papaparse'
import readExcel from 'read-excel-file/node'
import { parentPort, workerData } from 'node:worker_threads'

const { bytes, mostRows, mostColumns, mostUnpacked } = workerData
const ROWS_A_BLOCK = 5_000
/** Digits a spreadsheet keeps of a number. Behind them its own binary fractions show: 19.899999999999999 is 19.9. */
const SPREADSHEET_DIGITS = 15

class Unreadable extends Error {
  constructor(problem) {
    super(problem.code)
    this.problem = problem
  }
}

function refuse(problem) {
  throw new Unreadable(problem)
}

/** Looks at the addresses of cells before anything is laid out for them: one cell may stand in the last row of all. */
function checkWorkbook(file) {
  let unpacked = 0
  let sheets
  try {
    sheets = unzipSync(file, {
      filter: ({ name, originalSize }) => {
        unpacked += originalSize
        if (unpacked > mostUnpacked) refuse({ code: 'too-large', most: mostUnpacked })
        return /^xl\/worksheets\/[^/]+\.xml$/.test(name)
      },
    })
  } catch (error) {
    if (error instanceof Unreadable) throw error
    refuse({ code: 'not-a-spreadsheet', found: 'ZIP' })
  }
  for (const sheet of Object.values(sheets)) {
    const text = new TextDecoder().decode(sheet)
    for (const [, letters, digits] of text.matchAll(/<(?:\w+:)?c\b[^>]*?\br="([A-Za-z]{1,4})(\d{1,9})"/g)) {
      const column = [...letters.toUpperCase()].reduce((sum, each) => sum * 26 + each.charCodeAt(0) - 64, 0)
      if (column > mostColumns) refuse({ code: 'too-many-columns', columns: column, most: mostColumns })
      if (Number(digits) > mostRows + 1)
        refuse({ code: 'too-many-rows', rows: Number(digits), most: mostRows })
    }
    for (const [, digits] of text.matchAll(/<(?:\w+:)?row\b[^>]*?\br="(\d{1,9})"/g))
      if (Number(digits) > mostRows + 1)
        refuse({ code: 'too-many-rows', rows: Number(digits), most: mostRows })
  }
}

async function readWorkbook(file) {
  checkWorkbook(file)
  try {
    const sheets = await readExcel(Buffer.from(file), { parseNumber: (text) => text, trim: true })
    return (sheets[0]?.data ?? []).map((row) => row.map(workbookText))
  } catch {
    return refuse({ code: 'not-a-spreadsheet', found: 'ZIP' })
  }
}

function workbookText(value) {
  if (value === null || value === undefined) return ''
  if (value instanceof Date) return value.toISOString().slice(0, 10)
  const text = String(value).trim()
  const isLongNumber = text.length < 60 && /^-?\d*\.?\d+(e[+-]?\d+)?$/i.test(text) && /[.e]/i.test(text)
  return isLongNumber ? plainNumber(text) : text
}

function plainNumber(text) {
  const [whole = '', exponent] = Number(text).toPrecision(SPREADSHEET_DIGITS).split('e')
  const plain = whole.includes('.') ? whole.replace(/0+$/, '').replace(/\.$/, '') : whole
  return exponent === undefined
    ? plain
    : Number(text).toLocaleString('en', { useGrouping: false, maximumFractionDigits: 20 })
}

function decode(file) {
  if (file[0] === 0xff && file[1] === 0xfe) return new TextDecoder('utf-16le').decode(file)
  if (file[0] === 0xfe && file[1] === 0xff) return new TextDecoder('utf-16be').decode(file)
  try {
    return new TextDecoder('utf-8', { fatal: true }).decode(file)
  } catch {
    return new TextDecoder('windows-1252').decode(file)
  }
}

function readText(text) {
  if (text.includes('\u0000')) refuse({ code: 'not-a-spreadsheet', found: 'something else' })
  const { data, errors } = Papa.parse(text, {
    delimiter: delimiterOf(text),
    skipEmptyLines: false,
    preview: mostRows + 2,
  })
  const broken = errors.find(({ type }) => type === 'Quotes')
  if (broken) refuse({ code: 'broken', row: (broken.row ?? 0) + 1, message: broken.message })
  return data.map((row) => row.map(unguarded))
}

/** The sign that parts the headings: they rarely hold another of these, while texts and amounts below them do. */
function delimiterOf(text) {
  const headings = (/^\s*([^\r\n]*)/.exec(text.slice(0, 100_000))?.[1] ?? '').replace(/"[^"]*"/g, '')
  const count = (sign) => headings.split(sign).length
  return [',', ';', '\t', '|'].reduce((best, sign) => (count(sign) > count(best) ? sign : best))
}

/** An apostrophe that kept a spreadsheet from taking a text for a formula is no part of the text. */
function unguarded(cell) {
  return /^'+[=+@\t\r-]/.test(cell) ? cell.slice(1) : cell
}

try {
  const isZip = bytes[0] === 0x50 && bytes[1] === 0x4b
  const rows = isZip ? await readWorkbook(bytes) : readText(decode(bytes))
  const widest = rows.reduce((most, row) => Math.max(most, row.length), 0)
  if (widest > mostColumns) refuse({ code: 'too-many-columns', columns: widest, most: mostColumns })
  for (let at = 0; at < rows.length; at += ROWS_A_BLOCK)
    parentPort.postMessage({ kind: 'rows', rows: rows.slice(at, at + ROWS_A_BLOCK) })
  parentPort.postMessage({ kind: 'done', delimiter: isZip ? ',' : delimiterOf(decode(bytes)) })
} catch (error) {
  if (!(error instanceof Unreadable)) throw error
  parentPort.postMessage({ kind: 'refused', problem: error.problem })
}
