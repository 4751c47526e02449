import { NO_AMOUNTS, type Product, type Variant } from '@/core/catalogue/product'
import { writtenContent } from '@/core/catalogue/content'
import { parseCount } from '@/core/catalogue/stock'
import { parseRecord } from '@/core/store/parse-record'
import { RECORD_DEFAULTS } from '@/core/store/record-defaults'
import type { StockCount } from '../../stock/move-stock'
import { CategoryBook, categoryTexts } from './category-book'
import { type Cells, cellsOf, NONE } from '../import-field'
import { plainAmount } from '@/core/decimal/written-amount'
import { mergeProduct } from './merge-product'
import { gtinOf, type ProductGroup, type ProductRow } from './product-group'
import { PLACED_FIELDS } from '../placed-fields'
import { ATTRIBUTE, OPTION, OWN_PRICE } from './product-fields'
import { ProductNames } from './product-names'
import { type ImportReading, type ReadingInput, type RecordInput, ROWS_A_TURN } from '../reading'
import { RowBook } from '../row-outcome'

/**
 * Reads a file of products: each row is one SKU, rows with one product code are variants of one product.
 *
 * A cell in which nothing stands leaves its field as it is; `none` empties it. A new product takes over what all of
 * its rows agree on, and its variants keep the rest as their own. Categories that do not exist are made.
 */
export async function readProducts(input: ReadingInput): Promise<ImportReading> {
  const { store, table, matching, leftOut, newId } = input
  const book = new RowBook()
  const names = new ProductNames(store)
  const categories = new CategoryBook(store.category, newId)
  const groups = new Map<string, ProductGroup>()
  const seen = new Map<string, number>()

  for (const [at, { number, cells }] of table.rows.entries()) {
    if (at % ROWS_A_TURN === 0) await input.pause(at)
    const row = readRow(input, names, number, cellsOf(cells, matching))
    book.open(number, row.sku)
    if (leftOut.has(number)) continue
    if (row.sku === '') book.refuse(number, { code: 'no-key', fields: ['SKU'] })
    const before = seen.get(row.sku.toLowerCase())
    if (row.sku !== '' && before !== undefined)
      book.refuse(number, { code: 'repeated', field: 'SKU', value: row.sku, row: before })
    else seen.set(row.sku.toLowerCase(), number)
    checkRow(input, book, names, categories, row)
    if (book.isWrong(number)) continue

    const variant = names.variant(row.sku)
    const product = variant ? names.productOf(variant) : names.product(row.cells.get('product') ?? row.sku)
    const code = product?.code ?? row.cells.get('product') ?? row.sku
    const key = code.toLowerCase()
    const group = groups.get(key)
    if (group) group.rows.push(row)
    else
      groups.set(key, { code, product, variants: product ? names.variantsOf(product.id) : [], rows: [row] })
  }

  const drafts: RecordInput[] = []
  const counts: StockCount[] = []
  let merged = 0
  for (const group of groups.values()) {
    if (merged % ROWS_A_TURN === 0) await input.pause(table.rows.length)
    merged += 1
    const merging = mergeProduct(input, book, names, categories, group)
    drafts.push(...merging.drafts)
    counts.push(...merging.counts)
  }
  const filed = drafts.flatMap((draft) =>
    draft.kind === 'product' && draft.after ? draft.after.categories : [],
  )
  const made = categories.branchesOf([...new Set(filed)])
  return {
    outcomes: book.outcomes(leftOut),
    drafts: [
      ...made.map(({ category }): RecordInput => ({ kind: 'category', id: category.id, after: category })),
      ...drafts,
    ],
    branches: made.map(({ branch }) => branch),
    counts,
  }
}

function readRow({ mark }: ReadingInput, names: ProductNames, number: number, cells: Cells): ProductRow {
  const amount = (key: string): string | null | undefined => {
    const text = cells.get(key)
    if (text === undefined) return undefined
    return text.toLowerCase() === NONE ? null : plainAmount(text, mark)
  }
  const named = (key: string): string | null | undefined => {
    const text = cells.get(key)
    if (text === undefined) return undefined
    return text.toLowerCase() === NONE ? null : (names.taxClass(text)?.id ?? null)
  }
  const content = (key: string): string | null | undefined => {
    const text = cells.get(key)
    if (text === undefined) return undefined
    return text.toLowerCase() === NONE ? null : (writtenContent(text) ?? text)
  }
  const startingWith = (prefix: string): ReadonlyMap<string, string> =>
    new Map(
      [...cells].flatMap(([key, text]) => (key.startsWith(prefix) ? [[key.slice(prefix.length), text]] : [])),
    )
  const own = [...startingWith(OWN_PRICE).keys()].map(
    (currency) => [currency, amount(`${OWN_PRICE}${currency}`) ?? null] as const,
  )
  return {
    number,
    cells,
    sku: cells.get('sku') ?? '',
    values: new Map(
      PLACED_FIELDS.flatMap(({ key, kind }) => {
        const value = kind === 'tax-class' ? named(key) : kind === 'content' ? content(key) : amount(key)
        return value === undefined ? [] : [[key, value] as const]
      }),
    ),
    own: new Map(own),
    stock: amount('stock'),
    options: startingWith(OPTION),
    attributes: startingWith(ATTRIBUTE),
  }
}

/** What can be said of a row by itself. */
function checkRow(
  { context }: ReadingInput,
  book: RowBook,
  names: ProductNames,
  categories: CategoryBook,
  row: ProductRow,
): void {
  const { number, sku, cells, values, own } = row
  // The record's own check of amounts, on a variant that says nothing but what the row says.
  const said = PLACED_FIELDS.reduce(
    (variant, { key, write }) => (values.has(key) ? write(variant, values.get(key) ?? null) : variant),
    { ...RECORD_DEFAULTS.variant } as Variant,
  )
  const alone: Variant = {
    ...said,
    id: '',
    product: '',
    sku: sku || '-',
    gtin: gtinOf(row) ?? null,
    ownAmounts: Object.fromEntries(
      [...own].map(([currency, basePrice]) => [currency, { ...NO_AMOUNTS, basePrice }]),
    ) as Variant['ownAmounts'],
  }
  const parsed = parseRecord('variant', alone, context)
  const counted = parseCount(sku || '-', row.stock ?? null)
  for (const wrong of [parsed, counted])
    if (!wrong.ok) for (const issue of wrong.issues) book.refuse(number, { code: 'record', issue })

  const status = cells.get('status')
  if (status !== undefined && !STATUSES.includes(status.toLowerCase()))
    book.refuse(number, { code: 'not-among', field: 'Status', value: status, allowed: STATUSES })
  const family = cells.get('family')
  if (family !== undefined && family.toLowerCase() !== NONE && !names.family(family))
    book.refuse(number, {
      code: 'unknown',
      field: 'Price family',
      value: family,
      nearest: names.nearestFamily(family),
    })
  const taxClass = cells.get('taxClass')
  if (taxClass !== undefined && taxClass.toLowerCase() !== NONE && !names.taxClass(taxClass))
    book.refuse(number, {
      code: 'unknown',
      field: 'Tax class',
      value: taxClass,
      nearest: names.nearestTaxClass(taxClass),
    })
  for (const text of categoryTexts(cells.get('categories') ?? '')) {
    const found = categories.find(text)
    if (!found.ok)
      book.refuse(number, { code: 'not-among', field: 'Categories', value: text, allowed: found.among })
  }
  const typed = cells.get('product')
  const variant = names.variant(sku)
  const product = variant && (names.productOf(variant) as Product)
  if (typed !== undefined && product && product.code.toLowerCase() !== typed.toLowerCase())
    book.refuse(number, { code: 'other-product', sku, product: product.code, typed })
}

const STATUSES: readonly string[] = ['active', 'archived']
