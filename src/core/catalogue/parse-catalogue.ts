import { findMinorDigits } from '../currency/iso-4217'
import { compare, type Decimal } from '../decimal/decimal'
import { DraftReader, LONGEST_CODE } from '../issue/draft-reader'
import type { Parsed } from '../issue/issue'
import { parseLimits, type QuantityLimitsDraft } from '../limits/parse-limit'
import { parseScope } from '../predicates/parse-predicates'
import type { Category } from './category'
import { parseContent } from './content'
import type { Extra } from './extra'
import type { PriceFamily } from './price-family'
import type { InheritedValues, Product, ReferenceAmounts, Variant } from './product'

type AsText<Fields> = { readonly [Field in keyof Fields]: string | null }

type OwnAmountsDraft = Readonly<Record<string, AsText<ReferenceAmounts>>>

type WithTextAmounts<Noun> = {
  readonly [Field in keyof Noun]: Field extends keyof InheritedValues | 'stock'
    ? string | null
    : Field extends 'ownAmounts'
      ? OwnAmountsDraft
      : Field extends 'limits'
        ? QuantityLimitsDraft
        : Noun[Field]
}

/** A product as submitted: amounts are still text. */
export type ProductDraft = WithTextAmounts<Product>
/** A variant as submitted: amounts are still text. */
export type VariantDraft = WithTextAmounts<Variant>
/** An extra as submitted: amounts are still text. */
export type ExtraDraft = Omit<Extra, 'basePrice' | 'cost' | 'ownPrices'> & {
  readonly basePrice: string | null
  readonly cost: string | null
  readonly ownPrices: Readonly<Record<string, string>>
}

/** The store's own currency, and how many digits prices may have. */
export interface PriceDigits {
  readonly currency: string
  readonly digits: number
  /** In another currency. */
  readonly digitsOf: (currency: string) => number
}

/** Grams are the finest weight that makes sense for a parcel, and of what is sold by weight. */
const WEIGHT_DIGITS = 3
const STOCK_DIGITS = 3

export function parseCategory(draft: Category): Parsed<Category> {
  const reader = new DraftReader('category', draft.code)
  return reader.result({
    ...draft,
    ...reader.codeAndName(draft),
    position: reader.wholeNumber('position', draft.position, 0),
  })
}

export function parsePriceFamily(draft: PriceFamily): Parsed<PriceFamily> {
  const reader = new DraftReader('price-family', draft.code)
  return reader.result({
    ...draft,
    ...reader.codeAndName(draft),
  })
}

export function parseProduct(draft: ProductDraft, prices: PriceDigits): Parsed<Product> {
  const reader = new DraftReader('product', draft.code)
  if (draft.categories.length === 0) reader.report('missing', 'categories', '')
  return reader.result({
    ...draft,
    ...inheritedValues(reader, draft, prices),
    ...reader.codeAndName(draft),
    unit: reader.text('unit', draft.unit),
  })
}

export function parseVariant(draft: VariantDraft, prices: PriceDigits): Parsed<Variant> {
  const reader = new DraftReader('variant', draft.sku)
  return reader.result({
    ...draft,
    ...inheritedValues(reader, draft, prices),
    sku: reader.text('sku', draft.sku, LONGEST_CODE),
    position: reader.wholeNumber('position', draft.position, 0),
    stock: reader.optionalDecimal('stock', draft.stock, { digits: STOCK_DIGITS, sign: 'any' }),
  })
}

export function parseExtra(draft: ExtraDraft, prices: PriceDigits): Parsed<Extra> {
  const reader = new DraftReader('extra', draft.code)
  const { digits } = prices
  parseScope(reader, 'scope', draft.scope)
  return reader.result({
    ...draft,
    ...reader.codeAndName(draft),
    position: reader.wholeNumber('position', draft.position, 0),
    basePrice: reader.optionalDecimal('basePrice', draft.basePrice, { digits, sign: 'above-zero' }),
    cost: reader.optionalDecimal('cost', draft.cost, { digits, sign: 'not-negative' }),
    ownPrices: Object.fromEntries(
      Object.entries(draft.ownPrices).map(([currency, amount]) => [
        currency,
        reader.decimal(`ownPrices.${currency}`, amount, {
          digits: ownDigits(reader, 'ownPrices', currency, prices),
          sign: 'above-zero',
        }),
      ]),
    ),
  })
}

function inheritedValues(
  reader: DraftReader,
  draft: Pick<ProductDraft, keyof InheritedValues | 'ownAmounts' | 'limits' | 'content'>,
  prices: PriceDigits,
): InheritedValues & Pick<Product, 'ownAmounts' | 'limits' | 'content'> {
  return {
    content: parseContent(reader, draft.content),
    limits: parseLimits(reader, draft.limits, 'limits.'),
    ...referenceAmounts(reader, '', draft, prices.digits),
    weight: reader.optionalDecimal('weight', draft.weight, { digits: WEIGHT_DIGITS, sign: 'not-negative' }),
    ownAmounts: Object.fromEntries(
      Object.entries(draft.ownAmounts).map(([currency, amounts]) => [
        currency,
        referenceAmounts(
          reader,
          `ownAmounts.${currency}.`,
          amounts,
          ownDigits(reader, 'ownAmounts', currency, prices),
        ),
      ]),
    ),
  }
}

function referenceAmounts(
  reader: DraftReader,
  prefix: string,
  draft: AsText<ReferenceAmounts>,
  digits: number,
): ReferenceAmounts {
  const read = (field: keyof ReferenceAmounts, sign: 'above-zero' | 'not-negative'): Decimal | null =>
    reader.optionalDecimal(`${prefix}${field}`, draft[field], { digits, sign })
  const amounts = {
    basePrice: read('basePrice', 'above-zero'),
    cost: read('cost', 'not-negative'),
    recommendedPrice: read('recommendedPrice', 'above-zero'),
    floor: read('floor', 'not-negative'),
  }
  if (amounts.floor !== null && amounts.basePrice !== null && compare(amounts.floor, amounts.basePrice) > 0)
    reader.report('too-high', `${prefix}floor`, amounts.floor, amounts.basePrice)
  return amounts
}

/** An amount of one's own is for another currency than the store's. */
function ownDigits(reader: DraftReader, field: string, currency: string, prices: PriceDigits): number {
  if (currency === prices.currency) reader.report('store-currency', field, currency)
  else if (findMinorDigits(currency) === null) reader.report('unknown', field, currency, 'GBP')
  return prices.digitsOf(currency)
}
