import Papa from 'papaparse'

/** A block of cells as spreadsheets copy it: tabs between cells, one line a row. */
export function writeTabbed(block: readonly (readonly string[])[]): string {
  return Papa.unparse(block as string[][], { delimiter: '\t', newline: '\n' })
}

/**
 * Reads what a spreadsheet copied.
 *
 * Holds  `readTabbed(writeTabbed(block))` is `block`, as long as no row is one empty cell.
 */
export function readTabbed(text: string): readonly (readonly string[])[] {
  const { data } = Papa.parse<string[]>(text.replace(/\r?\n$/, ''), { delimiter: '\t' })
  return data
}
