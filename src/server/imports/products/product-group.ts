import type { Product, Variant } from '@/core/catalogue/product'
import { readGtin } from '@/core/catalogue/gtin'
import { type Cells, NONE } from '../import-field'

/** One row of a file of products. */
export interface ProductRow {
  readonly number: number
  readonly cells: Cells
  readonly sku: string
  /** What the row says of the fields of products and variants, by key; `null` to have none. */
  readonly values: ReadonlyMap<string, string | null>
  /** Base prices in other currencies, by currency. */
  readonly own: ReadonlyMap<string, string | null>
  readonly stock: string | null | undefined
  readonly options: ReadonlyMap<string, string>
  readonly attributes: ReadonlyMap<string, string>
}

/** The rows of one product, and what there is of it already. */
export interface ProductGroup {
  readonly code: string
  readonly product: Product | null
  readonly variants: readonly Variant[]
  readonly rows: ProductRow[]
}

/** A row and the variant it makes or changes. */
export interface Member {
  readonly row: ProductRow
  readonly before: Variant | null
  after: Variant
}

/** The GTIN a row tells: `null` for none, `undefined` where it says nothing; what is no GTIN stays as it is, to be refused. */
export function gtinOf({ cells }: Pick<ProductRow, 'cells'>): string | null | undefined {
  const text = cells.get('gtin')
  if (text === undefined) return undefined
  if (text.toLowerCase() === NONE) return null
  const read = readGtin(text)
  return read.ok ? read.gtin : text
}
