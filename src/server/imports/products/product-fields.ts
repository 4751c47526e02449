import type { Store } from '@/core/store/store'
import { type ImportField, plainHeading } from '../import-field'
import { PLACED_FIELDS } from '../placed-fields'

const TEXT_FIELDS: readonly ImportField[] = [
  { key: 'sku', name: 'SKU', aliases: ['itemnumber', 'articlenumber', 'itemno', 'partnumber', 'stockcode'] },
  { key: 'gtin', name: 'GTIN', aliases: ['ean', 'barcode', 'upc', 'ean13', 'gtin13'] },
  { key: 'product', name: 'Product code', aliases: ['product', 'parent', 'parentsku', 'productid', 'model'] },
  { key: 'name', name: 'Name', aliases: ['productname', 'title', 'item', 'itemname'] },
  { key: 'description', name: 'Description', aliases: ['text', 'longdescription', 'details'] },
  {
    key: 'categories',
    name: 'Categories',
    aliases: ['category', 'categorypath', 'path', 'section', 'branch', 'productgroup'],
  },
  { key: 'unit', name: 'Unit of sale', aliases: ['unit', 'uom', 'unitofmeasure', 'soldas'] },
  { key: 'status', name: 'Status', aliases: ['state', 'active'] },
  { key: 'family', name: 'Price family', aliases: ['family'] },
  { key: 'stock', name: 'Stock', aliases: ['quantity', 'onhand', 'qty', 'instock', 'inventory'] },
]

export const ATTRIBUTE = 'attribute:'
export const OPTION = 'option:'
export const OWN_PRICE = 'own:'

/**
 * What a column of a file of products can be. Attributes and options are named by the store, or by the heading
 * itself; a base price of its own there is for every other currency.
 */
export function productFields(store: Store, header: readonly string[]): readonly ImportField[] {
  const products = [...store.product.values()]
  const axes = new Set(products.flatMap(({ axes: each }) => each))
  const attributes = new Set(products.flatMap((product) => Object.keys(product.attributes)))
  const currencies = [...store.currency.values()].map(({ code }) => code)
  const plain = [...TEXT_FIELDS, ...PLACED_FIELDS]
  const known = new Set([...plain.flatMap(({ name, aliases }) => [plainHeading(name), ...aliases])])
  const free = header.map(bareHeading).filter((heading) => !known.has(plainHeading(heading)))
  return [
    ...plain,
    ...currencies.map((code) => ({
      key: `${OWN_PRICE}${code}`,
      name: `Base price in ${code}`,
      aliases: [`price${code}`, `baseprice${code}`, code].map(plainHeading),
    })),
    ...[...new Set([...axes, ...free])].map((axis) => ({
      key: `${OPTION}${axis}`,
      name: `Option: ${axis}`,
      // A heading that is a known option of the store is one; another one is more likely an attribute.
      aliases: axes.has(axis) ? [plainHeading(axis)] : [],
    })),
    ...[...new Set([...attributes, ...free])].map((attribute) => ({
      key: `${ATTRIBUTE}${attribute}`,
      name: `Attribute: ${attribute}`,
      aliases: attributes.has(attribute) ? [plainHeading(attribute)] : [],
    })),
  ]
}

/** A heading without the word that says what kind of field it is. */
function bareHeading(heading: string): string {
  return heading.replace(/^(?:option|attribute):\s*/i, '').trim()
}

export const PRODUCT_NEEDS = [['sku']] as const
