import type { InheritedField, Product, Variant } from '@/core/catalogue/product'
import type { Decimal } from '@/core/decimal/decimal'
import type { ImportField } from './import-field'

type Placed = Product | Variant

/** A field of products and variants alike: what the variant says counts, else what the product does. */
export interface PlacedField extends ImportField {
  /** Amounts are in the store's currency; a tax class is named in a file, and an id in a record. */
  readonly kind: 'amount' | 'number' | 'tax-class' | 'content'
  /** `null` where the record says nothing. */
  readonly read: (record: Placed) => string | null
  readonly write: <Kind extends Placed>(record: Kind, value: string | null) => Kind
}

/** Texts were checked row by row, so that each is a decimal here. */
function valueField(
  key: InheritedField,
  name: string,
  aliases: readonly string[],
  kind: 'amount' | 'number' = 'amount',
): PlacedField {
  return {
    ...{ key, name, aliases, kind },
    read: (record) => record[key],
    write: (record, value) => ({ ...record, [key]: value }),
  }
}

function limitField(
  key: 'minimum' | 'maximum' | 'multiple' | 'first',
  name: string,
  aliases: readonly string[],
): PlacedField {
  return {
    ...{ key, name, aliases, kind: 'number' },
    read: (record) => record.limits[key],
    write: (record, value) => ({ ...record, limits: { ...record.limits, [key]: value as Decimal | null } }),
  }
}

export const PLACED_FIELDS: readonly PlacedField[] = [
  valueField('basePrice', 'Base price', ['price', 'listprice', 'netprice', 'unitprice', 'standardprice']),
  valueField('cost', 'Cost', ['costprice', 'unitcost', 'purchaseprice']),
  valueField('recommendedPrice', 'Recommended price', [
    'rrp',
    'msrp',
    'recommendedretailprice',
    'retailprice',
    'srp',
  ]),
  valueField('floor', 'Floor', ['minimumprice', 'floorprice', 'lowestprice', 'minprice']),
  valueField('weight', 'Weight, kg', ['weight', 'weightkg', 'kg', 'netweight'], 'number'),
  {
    ...{ key: 'taxClass', name: 'Tax class', kind: 'tax-class' },
    aliases: ['taxcode', 'taxgroup', 'taxcategory', 'vatclass', 'vatcode'],
    read: (record) => record.taxClass,
    write: (record, value) => ({ ...record, taxClass: value }),
  },
  {
    ...{ key: 'content', name: 'Content', kind: 'content' },
    aliases: ['contents', 'netcontent', 'netquantity', 'packsize'],
    read: (record) => record.content,
    write: (record, value) => ({ ...record, content: value }),
  },
  limitField('minimum', 'Quantity at least', [
    'minimum',
    'minimumquantity',
    'minquantity',
    'moq',
    'minimumorderquantity',
  ]),
  limitField('maximum', 'Quantity at most', [
    'maximum',
    'atmost',
    'maximumquantity',
    'maxquantity',
    'maximumorderquantity',
  ]),
  limitField('multiple', 'In multiples of', [
    'multiple',
    'multiples',
    'casesize',
    'packsize',
    'orderincrement',
  ]),
  limitField('first', 'First quantity', [
    'first',
    'firstquantity',
    'defaultquantity',
    'initialquantity',
    'quantitystartswith',
  ]),
]

/** What counts for a variant: its own, else its product's. */
export function placedValue({ read }: PlacedField, product: Product, variant: Variant): string | null {
  return read(variant) ?? read(product)
}
