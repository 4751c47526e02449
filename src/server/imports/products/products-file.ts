import 'server-only'

import { findOwnAmount, type Product, type Variant } from '@/core/catalogue/product'
import type { StockLevels } from '@/core/catalogue/stock'
import type { Store } from '@/core/store/store'
import { orderedProducts } from '../../engine/catalogue-order'
import { CategoryBook } from './category-book'
import { PLACED_FIELDS, placedValue } from '../placed-fields'
import { ATTRIBUTE, OPTION, OWN_PRICE, productFields } from './product-fields'
import { writeTable } from '../write-table'

/**
 * All active products as a CSV file, one row a SKU, with every field an import knows. Fields nothing says anything in
 * are left out.
 *
 * Holds   importing the file changes nothing.
 */
export function productsFile(store: Store, stock: StockLevels): string {
  const categories = new CategoryBook(store.category, () => '')
  const rows = orderedProducts(store).flatMap(({ product, variants }) =>
    variants.map((variant) => rowOf(store, stock, categories, product, variant)),
  )
  const filled = new Set(rows.flatMap((row) => [...row].flatMap(([key, text]) => (text === '' ? [] : [key]))))
  const fields = productFields(store, []).filter(({ key }) => filled.has(key) || key === 'sku')
  return writeTable(
    fields.map(({ name }) => name),
    rows.map((row) => fields.map(({ key }) => row.get(key) ?? '')),
  )
}

function rowOf(
  store: Store,
  stock: StockLevels,
  categories: CategoryBook,
  product: Product,
  variant: Variant,
): ReadonlyMap<string, string> {
  return new Map([
    ['sku', variant.sku],
    ['gtin', variant.gtin ?? ''],
    ['product', product.code],
    ['name', product.name],
    ['description', product.description],
    ['categories', product.categories.map((id) => categories.pathOf(id).join(' > ')).join('; ')],
    ['unit', product.unit],
    ['status', variant.status],
    ['family', product.family === null ? '' : (store['price-family'].get(product.family)?.name ?? '')],
    ['stock', stock.get(variant.id)?.onHand ?? ''],
    ...PLACED_FIELDS.map((field) => {
      const value = placedValue(field, product, variant) ?? ''
      const text = field.kind === 'tax-class' ? (store['tax-class'].get(value)?.name ?? '') : value
      return [field.key, text] as const
    }),
    ...[...store.currency.keys()].map(
      (code) => [`${OWN_PRICE}${code}`, findOwnAmount(product, variant, 'basePrice', code) ?? ''] as const,
    ),
    ...Object.entries(variant.options).map(([axis, value]) => [`${OPTION}${axis}`, value] as const),
    ...Object.entries(product.attributes).map(([name, value]) => [`${ATTRIBUTE}${name}`, value] as const),
  ])
}
