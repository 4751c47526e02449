import type { GridCell } from './grid-moves'

/** A rectangle of cells, its edges inside. */
export interface GridRange {
  readonly top: number
  readonly bottom: number
  readonly left: number
  readonly right: number
}

/** The rectangle between two cells, whichever of them stands first. */
export function rangeBetween(from: GridCell, to: GridCell): GridRange {
  return {
    top: Math.min(from.row, to.row),
    bottom: Math.max(from.row, to.row),
    left: Math.min(from.column, to.column),
    right: Math.max(from.column, to.column),
  }
}

export function isSingleCell({ top, bottom, left, right }: GridRange): boolean {
  return top === bottom && left === right
}

/** A text per cell, row by row. */
export function cellsOfRange(
  { top, bottom, left, right }: GridRange,
  textOf: (row: number, column: number) => string,
): readonly (readonly string[])[] {
  return Array.from({ length: bottom - top + 1 }, (_, row) =>
    Array.from({ length: right - left + 1 }, (_, column) => textOf(top + row, left + column)),
  )
}

/** One pasted text and the cell it is for. */
export interface PastedCell extends GridCell {
  readonly text: string
}

/**
 * Where a pasted block goes: from the first cell of the range on; a single text fills the whole range. What lies beyond
 * the grid is dropped.
 */
export function placePasted(
  block: readonly (readonly string[])[],
  range: GridRange,
  size: { readonly rows: number; readonly columns: number },
): readonly PastedCell[] {
  const [only] = block[0] ?? []
  const isOne = block.length === 1 && block[0]?.length === 1
  const cells =
    isOne && !isSingleCell(range)
      ? cellsOfRange(range, () => only as string)
      : block.map((row) => row.map((text) => text.trim()))
  return cells
    .flatMap((row, down) =>
      row.map((text, right) => ({ row: range.top + down, column: range.left + right, text })),
    )
    .filter(({ row, column }) => row < size.rows && column < size.columns)
}
