import { findMinorDigits } from '../currency/iso-4217'
import { compare, type Decimal } from '../decimal/decimal'
import { InputReader, LONGEST_CODE } from '../issue/input-reader'
import type { Parsed } from '../issue/issue'
import { parseLimits, type QuantityLimitsInput } from '../limits/parse-limit'
import { parseScope } from '../predicates/parse-predicates'
import type { Category } from './category'
import { parseGtin } from './gtin'
import { parseContent } from './content'
import type { Extra } from './extra'
import type { PriceFamily } from './price-family'
import type { InheritedValues, Product, ReferenceAmounts, Variant } from './product'

type AsText<Fields> = { readonly [Field in keyof Fields]: string | null }

type OwnAmountsInput = Readonly<Record<string, AsText<ReferenceAmounts>>>

type WithTextAmounts<Noun> = {
  readonly [Field in keyof Noun]: Field extends keyof InheritedValues
    ? string | null
    : Field extends 'ownAmounts'
      ? OwnAmountsInput
      : Field extends 'limits'
        ? QuantityLimitsInput
        : Noun[Field]
}

/** A product as submitted: amounts are still text. */
export type ProductInput = WithTextAmounts<Product>
/** A variant as submitted: amounts are still text. */
export type VariantInput = WithTextAmounts<Variant>
/** An extra as submitted: amounts are still text. */
export type ExtraInput = Omit<Extra, 'basePrice' | 'cost' | 'ownPrices'> & {
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

export function parseCategory(input: Category): Parsed<Category> {
  const reader = new InputReader('category', input.code)
  return reader.result({
    ...input,
    ...reader.codeAndName(input),
    position: reader.wholeNumber('position', input.position, 0),
  })
}

export function parsePriceFamily(input: PriceFamily): Parsed<PriceFamily> {
  const reader = new InputReader('price-family', input.code)
  return reader.result({
    ...input,
    ...reader.codeAndName(input),
  })
}

export function parseProduct(input: ProductInput, prices: PriceDigits): Parsed<Product> {
  const reader = new InputReader('product', input.code)
  if (input.categories.length === 0) reader.report('missing', 'categories', '')
  return reader.result({
    ...input,
    ...inheritedValues(reader, input, prices),
    ...reader.codeAndName(input),
    unit: reader.text('unit', input.unit),
  })
}

export function parseVariant(input: VariantInput, prices: PriceDigits): Parsed<Variant> {
  const reader = new InputReader('variant', input.sku)
  return reader.result({
    ...input,
    ...inheritedValues(reader, input, prices),
    sku: reader.text('sku', input.sku, LONGEST_CODE),
    gtin: parseGtin(reader, input.gtin),
    position: reader.wholeNumber('position', input.position, 0),
  })
}

export function parseExtra(input: ExtraInput, prices: PriceDigits): Parsed<Extra> {
  const reader = new InputReader('extra', input.code)
  const { digits } = prices
  parseScope(reader, 'scope', input.scope)
  return reader.result({
    ...input,
    ...reader.codeAndName(input),
    position: reader.wholeNumber('position', input.position, 0),
    basePrice: reader.optionalDecimal('basePrice', input.basePrice, { digits, sign: 'above-zero' }),
    cost: reader.optionalDecimal('cost', input.cost, { digits, sign: 'not-negative' }),
    ownPrices: Object.fromEntries(
      Object.entries(input.ownPrices).map(([currency, amount]) => [
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
  reader: InputReader,
  input: Pick<ProductInput, keyof InheritedValues | 'ownAmounts' | 'limits' | 'content'>,
  prices: PriceDigits,
): InheritedValues & Pick<Product, 'ownAmounts' | 'limits' | 'content'> {
  return {
    content: parseContent(reader, input.content),
    limits: parseLimits(reader, input.limits, 'limits.'),
    ...referenceAmounts(reader, '', input, prices.digits),
    weight: reader.optionalDecimal('weight', input.weight, { digits: WEIGHT_DIGITS, sign: 'not-negative' }),
    ownAmounts: Object.fromEntries(
      Object.entries(input.ownAmounts).map(([currency, amounts]) => [
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
  reader: InputReader,
  prefix: string,
  input: AsText<ReferenceAmounts>,
  digits: number,
): ReferenceAmounts {
  const read = (field: keyof ReferenceAmounts, sign: 'above-zero' | 'not-negative'): Decimal | null =>
    reader.optionalDecimal(`${prefix}${field}`, input[field], { digits, sign })
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
function ownDigits(reader: InputReader, field: string, currency: string, prices: PriceDigits): number {
  if (currency === prices.currency) reader.report('store-currency', field, currency)
  else if (findMinorDigits(currency) === null) reader.report('unknown', field, currency, 'GBP')
  return prices.digitsOf(currency)
}
