/** Where the keyboard stands in a grid. */
export interface GridCell {
  readonly row: number
  readonly column: number
}

/** How large the grid is, and how many rows a page is. */
export interface GridSize {
  readonly rows: number
  readonly columns: number
  readonly page: number
}

/**
 * The cell a key leads to.
 *
 * Errors  `null` when the key does not move.
 * Holds   the result lies inside the grid.
 */
export function moveInGrid(
  from: GridCell,
  key: string,
  { control }: { readonly control: boolean },
  size: GridSize,
): GridCell | null {
  const lastRow = Math.max(0, size.rows - 1)
  const lastColumn = Math.max(0, size.columns - 1)
  const to = (row: number, column: number): GridCell => ({
    row: Math.min(lastRow, Math.max(0, row)),
    column: Math.min(lastColumn, Math.max(0, column)),
  })
  switch (key) {
    case 'ArrowUp':
      return to(control ? 0 : from.row - 1, from.column)
    case 'ArrowDown':
      return to(control ? lastRow : from.row + 1, from.column)
    case 'ArrowLeft':
      return to(from.row, control ? 0 : from.column - 1)
    case 'ArrowRight':
      return to(from.row, control ? lastColumn : from.column + 1)
    case 'PageUp':
      return to(from.row - size.page, from.column)
    case 'PageDown':
      return to(from.row + size.page, from.column)
    case 'Home':
      return to(control ? 0 : from.row, 0)
    case 'End':
      return to(control ? lastRow : from.row, lastColumn)
    default:
      return null
  }
}

/** Whether a key begins to type a figure: digits, signs, a point, `x` for times and `m` for margin. */
export function startsFigure(key: string): boolean {
  return /^[\d+\-.xm]$/.test(key)
}
