import { DraftReader } from '../issue/draft-reader'
import type { Parsed } from '../issue/issue'
import type { Category } from './category'
import type { InheritedValues, Product, Variant } from './product'

type WithTextAmounts<Noun> = {
  readonly [Field in keyof Noun]: Field extends keyof InheritedValues ? string | null : Noun[Field]
}

/** A product as submitted: amounts are still text. */
export type ProductDraft = WithTextAmounts<Product>
/** A variant as submitted: amounts are still text. */
export type VariantDraft = WithTextAmounts<Variant>

/** Grams are the finest weight that makes sense for a parcel. */
const WEIGHT_DIGITS = 3

export function parseCategory(draft: Category): Parsed<Category> {
  const reader = new DraftReader('category', draft.code)
  return reader.result({
    ...draft,
    code: reader.text('code', draft.code),
    name: reader.text('name', draft.name),
    position: reader.wholeNumber('position', draft.position, 0),
  })
}

/** `digits` is how many digits a price of the store may have. */
export function parseProduct(draft: ProductDraft, digits: number): Parsed<Product> {
  const reader = new DraftReader('product', draft.code)
  if (draft.categories.length === 0) reader.report('missing', 'categories', '')
  return reader.result({
    ...draft,
    ...inheritedValues(reader, draft, digits),
    code: reader.text('code', draft.code),
    name: reader.text('name', draft.name),
    unit: reader.text('unit', draft.unit),
  })
}

export function parseVariant(draft: VariantDraft, digits: number): Parsed<Variant> {
  const reader = new DraftReader('variant', draft.sku)
  return reader.result({
    ...draft,
    ...inheritedValues(reader, draft, digits),
    sku: reader.text('sku', draft.sku),
    position: reader.wholeNumber('position', draft.position, 0),
  })
}

function inheritedValues(
  reader: DraftReader,
  draft: Pick<ProductDraft, keyof InheritedValues>,
  digits: number,
): InheritedValues {
  return {
    basePrice: reader.optionalDecimal('basePrice', draft.basePrice, { digits, sign: 'above-zero' }),
    cost: reader.optionalDecimal('cost', draft.cost, { digits, sign: 'not-negative' }),
    recommendedPrice: reader.optionalDecimal('recommendedPrice', draft.recommendedPrice, {
      digits,
      sign: 'above-zero',
    }),
    weight: reader.optionalDecimal('weight', draft.weight, { digits: WEIGHT_DIGITS, sign: 'not-negative' }),
  }
}
