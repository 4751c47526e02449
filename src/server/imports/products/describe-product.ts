import { findOwnAmount, type Product } from '@/core/catalogue/product'
import type { CategoryBook } from './category-book'
import type { Member } from './product-group'
import { PLACED_FIELDS, placedValue } from '../placed-fields'
import type { ProductNames } from './product-names'
import type { ReadingInput } from '../reading'
import type { RowBook } from '../row-outcome'

/** Tells the book what changes: of the product in the first row that speaks of it, of a variant in its own. */
export function describeProduct(
  { context, stock }: ReadingInput,
  book: RowBook,
  { names, categories }: { readonly names: ProductNames; readonly categories: CategoryBook },
  {
    before: known,
    after: product,
    members,
  }: { readonly before: Product | null; readonly after: Product; readonly members: readonly Member[] },
): void {
  const [first] = members
  if (!first) return
  const shared: readonly (readonly [string, string | null, string])[] = [
    ['Name', known?.name ?? null, product.name],
    ['Description', known?.description ?? null, product.description],
    ['Unit of sale', known?.unit ?? null, product.unit],
    ['Price family', known && names.familyName(known.family), names.familyName(product.family)],
    ['Categories', known && pathsText(categories, known), pathsText(categories, product)],
    ...[...new Set([...Object.keys(known?.attributes ?? {}), ...Object.keys(product.attributes)])].map(
      (each) => [each, known?.attributes[each] ?? null, product.attributes[each] ?? ''] as const,
    ),
  ]
  if (known) for (const [field, before, after] of shared) tell(book, first, field, before, after)
  else tell(book, first, 'Name', null, product.name)
  for (const member of members) {
    const { row, before, after } = member
    if (!before) book.markNew(row.number)
    tell(book, member, 'GTIN', before?.gtin ?? null, after.gtin ?? '')
    for (const field of PLACED_FIELDS) {
      const shown = (value: string | null) => (field.kind === 'tax-class' ? names.taxClassName(value) : value)
      tell(
        book,
        member,
        field.name,
        known && before && shown(placedValue(field, known, before)),
        shown(placedValue(field, product, after)) ?? '',
        ...(field.kind === 'amount' ? [context.digits] : []),
      )
    }
    for (const currency of row.own.keys())
      tell(
        book,
        member,
        `Base price in ${currency}`,
        known && before && findOwnAmount(known, before, 'basePrice', currency),
        findOwnAmount(product, after, 'basePrice', currency) ?? '',
        context.digitsOf(currency),
      )
    if (row.stock !== undefined)
      tell(book, member, 'Stock', stock.get(after.id)?.onHand ?? null, row.stock ?? '')
    if (before) tell(book, member, 'Status', before.status, after.status)
    for (const axis of product.axes)
      tell(book, member, axis, before?.options[axis] ?? null, after.options[axis] ?? '')
  }
}

function tell(
  book: RowBook,
  { row }: Member,
  field: string,
  before: string | null,
  after: string,
  digits?: number,
): void {
  if ((before ?? '') === after) return
  book.effect(row.number, { field, before: before ?? '', after, ...(digits !== undefined && { digits }) })
}

function pathsText(categories: CategoryBook, product: Product): string {
  return product.categories.map((id) => categories.pathOf(id).join(' > ')).join('; ')
}
