import type { DecimalMark } from '@/core/decimal/written-amount'
import type { RowResult } from '@/server/imports/row-outcome'

/** A column of the file, what it is matched with, and the first things that stand in it. */
interface ColumnView {
  readonly heading: string
  readonly field: string | null
  readonly samples: readonly string[]
}

export interface FieldChoice {
  readonly key: string
  readonly name: string
  readonly section: 'Fields' | 'Prices' | 'Options' | 'Attributes'
}

/** How many rows come to what. */
export type ResultCounts = Readonly<Record<RowResult, number>>

/** How far an import is: sentences where something is to be said. */
export type ProgressView =
  | { readonly step: 'matching'; readonly problem: string | null }
  | { readonly step: 'working'; readonly words: string; readonly done: number; readonly of: number }
  | { readonly step: 'preview'; readonly notice: string | null; readonly counts: ResultCounts }
  | { readonly step: 'stopped'; readonly problem: string }
  | {
      readonly step: 'done'
      readonly changeSet: number
      readonly rows: number
      readonly counts: ResultCounts
    }

/** One file on its way into the store. */
export interface ImportView {
  readonly id: string
  readonly fileName: string
  /** What it is read into, as words: "products", "lines of Club level". */
  readonly into: string
  readonly kind: 'products' | 'lines'
  readonly rowCount: number
  readonly columns: readonly ColumnView[]
  readonly fields: readonly FieldChoice[]
  readonly mark: DecimalMark
  readonly progress: ProgressView
  /** Categories it makes, with existing ones called much like them. */
  readonly branches: readonly { readonly path: string; readonly nearest: string | null }[]
}

/** One row of the preview. */
interface RowView {
  readonly number: number
  readonly label: string
  readonly result: RowResult
  /** What happens, or what is wrong. */
  readonly words: string
  readonly leftOut: boolean
}

export interface RowsView {
  readonly rows: readonly RowView[]
  readonly total: number
}

export const ROWS_A_PAGE = 100
