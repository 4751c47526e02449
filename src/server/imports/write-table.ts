import 'server-only'

import Papa from 'papaparse'

const BYTE_ORDER_MARK = '\uFEFF'

/**
 * A CSV file as spreadsheets read it: UTF-8 with a mark, commas unless another sign is asked for, CRLF (RFC 4180). A text a spreadsheet would take for a
 * formula is quoted by an apostrophe; amounts stay as they are.
 */
export function writeTable(
  header: readonly string[],
  rows: readonly (readonly string[])[],
  delimiter = ',',
): string {
  const text = Papa.unparse(
    { fields: header.map(harmless), data: rows.map((row) => row.map(harmless)) },
    { newline: '\r\n', delimiter },
  )
  return `${BYTE_ORDER_MARK}${text}\r\n`
}

function harmless(cell: string): string {
  return /^'*[=+@\t\r-]/.test(cell) && !/^[+-]?\d*\.?\d+%?$/.test(cell) ? `'${cell}` : cell
}
