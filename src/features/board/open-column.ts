import type { Situation } from '@/core/engine/situation'
import type { BoardColumn } from './board-view'

/** A column with everything its cells are found with. */
export interface OpenColumn {
  readonly column: BoardColumn
  readonly situation: Situation
  /** In thousandths. */
  readonly quantity: number
}
