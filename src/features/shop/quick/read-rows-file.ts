import 'server-only'

import { readTable, type TableProblem } from '@/server/imports/read-table'
import { MOST_ROWS, type QuickRow, readCells } from './quick-rows'

/** The rows of a file, or why there are none. */
export async function readRowsFile(
  bytes: Uint8Array,
): Promise<{ readonly rows: readonly QuickRow[] } | { readonly problem: string }> {
  const read = await readTable(bytes)
  // A file of one line is all heading to a table reader.
  if (!read.ok) return { problem: problemText(read.problem) }
  const rows = readCells(
    read.table.header,
    read.table.rows.map(({ cells }) => cells),
  )
  if (rows.length === 0)
    return {
      problem: 'There is no SKU in this file. Put SKUs in its first column, quantities in its second.',
    }
  return rows.length > MOST_ROWS
    ? {
        problem: `There are ${rows.length} rows in this file; ${MOST_ROWS} can be ordered at once. Split it.`,
      }
    : { rows }
}

function problemText(problem: TableProblem): string {
  switch (problem.code) {
    case 'empty':
    case 'no-rows':
      return 'There are no rows in this file. Put SKUs in its first column, quantities in its second, below a line of headings.'
    case 'not-a-spreadsheet':
      return `This is a ${problem.found} file. Save it as CSV or XLSX, and choose that.`
    case 'too-many-rows':
      return `There are ${problem.rows} rows in this file; ${MOST_ROWS} can be ordered at once. Split it.`
    case 'broken':
      return `Row ${problem.row} cannot be read: ${problem.message}.`
    default:
      return 'This file is too large to be read here. Keep two columns: SKU and quantity.'
  }
}
