import type { Vantage } from '@/core/engine/context/vantage'
import { parseColumns, serializeColumns } from '../rows/board-url'

/** Columns kept by name, in this browser. */
export interface ColumnSet {
  readonly name: string
  readonly columns: readonly Vantage[]
}

const KEPT = 'steppe.column-sets'

/** What cannot be read is as good as nothing: only a choice of columns is lost. */
export function readColumnSets(): readonly ColumnSet[] {
  try {
    const kept = JSON.parse(localStorage.getItem(KEPT) ?? '[]') as readonly {
      name: string
      columns: string
    }[]
    return kept.map(({ name, columns }) => ({ name: String(name), columns: parseColumns(String(columns)) }))
  } catch {
    return []
  }
}

export function writeColumnSets(sets: readonly ColumnSet[]): void {
  localStorage.setItem(
    KEPT,
    JSON.stringify(sets.map(({ name, columns }) => ({ name, columns: serializeColumns(columns) }))),
  )
}
