import type { StockLevels } from '@/core/catalogue/stock'
import type { RecordKind } from '@/core/issue/issue'
import type { InputOfKind, ParseContext } from '@/core/store/parse-record'
import type { Store } from '@/core/store/store'
import type { StockCount } from '../stock/move-stock'
import type { NewBranch } from './products/category-book'
import type { Matching } from './import-field'
import type { DecimalMark } from '@/core/decimal/written-amount'
import type { ImportedTable } from './read-table'
import type { RowOutcome } from './row-outcome'

/** Everything that reading a file depends on. */
export interface ReadingInput {
  readonly store: Store
  /** How many there are of what is counted. */
  readonly stock: StockLevels
  readonly context: ParseContext
  readonly table: ImportedTable
  readonly matching: Matching
  readonly mark: DecimalMark
  /** Rows somebody took out of the import. */
  readonly leftOut: ReadonlySet<number>
  readonly newId: () => string
  /** Called now and then with how many rows are read; lets others have a turn, and throws when nobody waits any more. */
  readonly pause: (done: number) => Promise<void>
}

/** One record as the file wants it; `null` takes it away. */
export type RecordInput = {
  [Kind in RecordKind]: { readonly kind: Kind; readonly id: string; readonly after: InputOfKind[Kind] | null }
}[RecordKind]

/** What a file comes to. */
export interface ImportReading {
  readonly outcomes: readonly RowOutcome[]
  readonly drafts: readonly RecordInput[]
  readonly branches: readonly NewBranch[]
  /** What was counted, by the file. */
  readonly counts: readonly StockCount[]
}

/** How many rows are read between two pauses. */
export const ROWS_A_TURN = 1_000
