import type { PriceList } from '@/core/price/lines/price-list'
import type { Store } from '@/core/store/store'
import { type ImportField, plainHeading } from '../import-field'

const ITEM_FIELDS: readonly ImportField[] = [
  {
    key: 'sku',
    name: 'SKU',
    aliases: ['itemnumber', 'articlenumber', 'itemno', 'partnumber', 'stockcode', 'variant'],
  },
  { key: 'product', name: 'Product code', aliases: ['product', 'parent', 'productid', 'model'] },
  { key: 'category', name: 'Category', aliases: ['categories', 'categorypath', 'section', 'productgroup'] },
  { key: 'family', name: 'Price family', aliases: ['family'] },
]

export const LIST_PRICE = 'price:'

/**
 * What a column of a file of list lines can be: an item, a quantity, the list, and the price in the list chosen or
 * in one that the column is for.
 */
export function lineFields(store: Store): readonly ImportField[] {
  return [
    ...ITEM_FIELDS,
    {
      key: 'from',
      name: 'From quantity',
      aliases: ['from', 'quantity', 'qty', 'minimumquantity', 'break', 'minqty'],
    },
    { key: 'list', name: 'Price list', aliases: ['list', 'pricelist', 'listcode'] },
    {
      key: 'price',
      name: 'Price or rule',
      aliases: ['price', 'netprice', 'unitprice', 'rule', 'discount', 'amount'],
    },
    ...[...store['price-list'].values()].map(({ code, name }) => ({
      key: `${LIST_PRICE}${code}`,
      name: `Price in ${name}`,
      aliases: [name, code].map(plainHeading),
    })),
  ]
}

/** One of each group must be among the columns; without a list chosen, prices must say which list they are for. */
export function lineNeeds(store: Store, list: PriceList | null): readonly (readonly string[])[] {
  const named = [...store['price-list'].values()].map(({ code }) => `${LIST_PRICE}${code}`)
  return [ITEM_FIELDS.map(({ key }) => key), ['price', ...named], ...(list ? [] : [['list', ...named]])]
}
