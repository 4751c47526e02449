/** A row of a quick order, as it is typed. */
export interface QuickRow {
  readonly sku: string
  readonly quantity: string
  /** What one should cost, where a quote is asked for. */
  readonly wish?: string
  /** Codes of what is wanted with each piece; only where the row came from a cart. */
  readonly extras?: readonly string[]
}

/** More is no order that anybody types or pastes. */
export const MOST_ROWS = 1_000

export const EMPTY_ROW: QuickRow = { sku: '', quantity: '' }

export function isEmpty({ sku, quantity }: QuickRow): boolean {
  return sku.trim() === '' && quantity.trim() === ''
}

/**
 * Reads what was pasted: a row a line, the SKU before the quantity, parted by a tab, a comma, a semicolon or spaces. What stands
 * behind a quantity is passed over, as are headings. A SKU without a quantity is one.
 */
export function readPasted(text: string): readonly QuickRow[] {
  return text
    .split(/\r?\n/)
    .map((line) => cellsOf(line))
    .filter((cells) => (cells[0] ?? '') !== '' && !isHeading(cells))
    .map(([sku = '', quantity = '']) => ({ sku, quantity: quantity === '' ? '1' : quantity }))
    .slice(0, MOST_ROWS)
}

/** Reads the rows of a file: the columns that are called so, else the first two. */
export function readCells(
  header: readonly string[],
  rows: readonly (readonly string[])[],
): readonly QuickRow[] {
  const find = (names: RegExp) => header.findIndex((title) => names.test(title.trim()))
  const sku = find(SKU_NAMES)
  const quantity = find(QUANTITY_NAMES)
  const isHeaded = sku >= 0 || quantity >= 0
  const [skuAt, quantityAt] = [sku >= 0 ? sku : 0, quantity >= 0 ? quantity : 1]
  const all = isHeaded ? rows : [header, ...rows]
  return all
    .map((cells) => ({ sku: (cells[skuAt] ?? '').trim(), quantity: (cells[quantityAt] ?? '').trim() || '1' }))
    .filter(({ sku: typed }) => typed !== '')
}

const SKU_NAMES = /^(sku|item|item (no|number|code)\.?|article|part (no|number)\.?|code)$/i
const QUANTITY_NAMES = /^(quantity|qty\.?|amount|pieces|count)$/i

function isHeading([first = '', second = '']: readonly string[]): boolean {
  return SKU_NAMES.test(first) && (second === '' || QUANTITY_NAMES.test(second))
}

/** Tabs part cells that may hold spaces; else whatever parts words does. */
function cellsOf(line: string): readonly string[] {
  const parted = line.includes('\t') ? line.split('\t') : line.trim().split(/[\s,;]+/)
  return parted.map((cell) => cell.trim())
}

/** Rows with some put in at a place, and one that is empty at the end for what comes next. */
export function withRows(
  rows: readonly QuickRow[],
  at: number,
  pasted: readonly QuickRow[],
): readonly QuickRow[] {
  const rest = rows.slice(at + 1)
  const before = rows.slice(0, at)
  return withNext([...before, ...pasted, ...rest])
}

/** Exactly one empty row at the end. */
export function withNext(rows: readonly QuickRow[]): readonly QuickRow[] {
  let end = rows.length
  while (end > 0 && isEmpty(rows[end - 1] as QuickRow)) end -= 1
  return [...rows.slice(0, end), EMPTY_ROW].slice(0, MOST_ROWS + 1)
}
