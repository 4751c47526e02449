import 'server-only'

import type { Decimal } from '@/core/decimal/decimal'
import writeExcel from 'write-excel-file/node'

/** A cell of a spreadsheet: a text, an amount with so many digits, or nothing. */
export type SheetCell = string | { readonly amount: Decimal; readonly digits: number } | null

export const XLSX_TYPE = 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet'

/** A cell as plain text, amounts with a point: for a CSV file of the same rows. */
export function cellText(cell: SheetCell): string {
  return cell === null ? '' : typeof cell === 'string' ? cell : cell.amount
}

/** Beyond so many rows making the file takes long, and a CSV file serves better. */
export const MOST_SHEET_ROWS = 5_000

/**
 * An XLSX file (ECMA-376) with its head frozen. Amounts are numbers, as a spreadsheet keeps them: to 15 significant digits.
 * Texts stay texts, whatever they begin with.
 */
export async function writeSheet(
  header: readonly string[],
  rows: readonly (readonly SheetCell[])[],
): Promise<Uint8Array<ArrayBuffer>> {
  const head = header.map((value) => ({ value, fontWeight: 'bold' as const, wrap: true }))
  const data = rows.map((row) =>
    row.map((cell) => {
      if (cell === null) return null
      if (typeof cell === 'string') return { value: cell, type: String }
      const format = cell.digits === 0 ? '0' : `0.${'0'.repeat(cell.digits)}`
      return { value: Number(cell.amount), type: Number, format }
    }),
  )
  const columns = header.map((name, at) => ({
    width: Math.max(name.length / 2, ...rows.slice(0, 200).map((row) => widthOf(row[at] ?? null))) + 2,
  }))
  const file = await writeExcel([head, ...data], { stickyRowsCount: 1, columns }).toBuffer()
  return new Uint8Array(file)
}

function widthOf(cell: SheetCell): number {
  if (cell === null) return 0
  return Math.min(48, typeof cell === 'string' ? cell.length : cell.amount.length + cell.digits)
}
