import 'server-only'

import {
  amountField,
  choiceField,
  type FieldRule,
  nameField,
  namesField,
  optionalField,
  pairsField,
  textField,
  wordsField,
} from './field-rule'
import { ownLimits } from './limit-fields'
import { code, name, position, scope } from './shared-fields'
import { taxClassField } from './terms-fields'
import { ownAmounts } from './written-fields'

const amountsOf: readonly FieldRule[] = [
  amountField(['basePrice', 'Base price', 'The price with no agreement.']),
  amountField(['cost', 'Cost']),
  amountField(['recommendedPrice', 'Recommended price']),
  amountField(['floor', 'Floor', 'Never sold below.']),
  ownAmounts,
  amountField(['weight', 'Weight, kg']),
  optionalField([
    'content',
    'Content',
    'What one holds, for its price per unit: 0.454 kg, 12 × 340 g, 2.5 l, 50 m.',
  ]),
  nameField(['family', 'Price family', 'Priced together with others of the family.'], 'price-family'),
  taxClassField,
  ...ownLimits,
]

export const CATEGORY_FIELDS: readonly FieldRule[] = [
  name,
  code,
  nameField(['parent', 'Parent category', 'Empty is the top.'], 'category'),
]

export const PRICE_FAMILY_FIELDS: readonly FieldRule[] = [name, code]

export const EXTRA_FIELDS: readonly FieldRule[] = [
  name,
  code,
  { ...scope, name: 'Goes with' },
  amountField(['basePrice', 'Base price', 'For each piece of what it is added to.']),
  amountField(['cost', 'Cost']),
  { ...pairsField(['ownPrices', 'Own prices', 'One currency a line: GBP=5.75']) },
  position,
]

export const PRODUCT_FIELDS: readonly FieldRule[] = [
  name,
  code,
  textField(['description', 'Description']),
  textField(['unit', 'Unit', 'What one of it is: each, case, pair.']),
  namesField(
    ['categories', 'Categories', 'Names between commas; the first is the one its page stands in.'],
    'category',
  ),
  pairsField(['attributes', 'Attributes', 'One a line: Fabric=mesh']),
  wordsField(['axes', 'Options', 'What its variants differ in, such as Timber, Pack.']),
  choiceField(
    ['backOrder', 'When stock runs out', 'Whether more may be ordered than there is.'],
    [
      [true, 'taken on back order'],
      [false, 'not sold'],
    ],
  ),
  { ...textField(['picture', 'Picture']), control: 'picture' },
  ...amountsOf,
]

export const VARIANT_FIELDS: readonly FieldRule[] = [
  textField(['sku', 'SKU']),
  optionalField(['gtin', 'GTIN', 'Its number in the trade: 8, 12, 13 or 14 digits, as under its bar code.']),
  { ...nameField(['product', 'Product'], 'product') },
  pairsField(['options', 'Options', 'One a line: Timber=Pine']),
  ...amountsOf,
  position,
]
