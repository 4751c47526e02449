import 'server-only'

import { pathToRoot } from '@/core/catalogue/category'
import {
  type InheritedField,
  type Product,
  resolveValue,
  type Variant,
  variantName,
} from '@/core/catalogue/product'
import { compare } from '@/core/decimal/decimal'
import { findLimits } from '@/core/engine/rules/find-limits'
import { shownInBasis, storeBasis } from '@/core/engine/amounts/basis'
import { findPrice } from '@/core/engine/price/find-price'
import { findRights } from '@/core/engine/rules/find-rights'
import { taxClassOf } from '@/core/engine/rules/find-tax'
import { toPrice } from '@/core/engine/lists/price-step'
import { marginPercent } from '@/core/price/margin'
import { getSettings } from '@/core/store/store'
import { latestChangesOf } from '@/server/changes/history'
import { findShownProduct, orderedProducts, type ProductWithVariants } from '@/server/engine/catalogue-order'
import { Slices } from '@/server/doors/slices'
import type { RequestContext } from '@/server/engine/request-context'
import { rangeText } from '@/ui/format/amount'
import { toHistoryLines } from '@/ui/format/history-line'
import { quantityPhrase, rightsPhrase } from '@/ui/format/terms-phrases'
import {
  PRODUCT_FIELDS,
  type ProductListView,
  type ProductSheetRow,
  type ProductSheetView,
  type ShownValue,
  type VariantTerms,
} from './product-view'

/** How much of a sheet's history is shown. */
const SHOWN_CHANGES = 8

/** More than that nobody scrolls through; words narrow them. */
const MOST_LISTED = 500

/** The products whose name, code or category holds some words, with what the buyer looked as pays. */
export async function loadProducts(requestContext: RequestContext, find: string): Promise<ProductListView> {
  const { prepared } = requestContext
  const { store } = prepared
  const { priceDigits: digits, currency } = getSettings(store)
  const all = orderedProducts(store)
  const words = find.toLowerCase().split(/\s+/).filter(Boolean)
  const categoryOf = ({ categories }: Product) => store.category.get(categories[0] ?? '')?.name ?? ''
  const slices = new Slices()
  const found: ProductWithVariants[] = []
  for (const each of all) {
    if (slices.isDue()) await slices.rest()
    const { product } = each
    const text = `${product.name} ${product.code} ${categoryOf(product)}`.toLowerCase()
    if (words.every((word) => text.includes(word))) found.push(each)
  }
  const toRow = ({ product, variants }: ProductWithVariants): ProductListView['rows'][number] => {
    const resolved = (field: InheritedField) =>
      variants.map((variant) => resolveValue(product, variant, field).value)
    const priced = variants.map(({ id }) => priceOf(requestContext, id))
    const prices = priced.map(({ price }) => price)
    const costs = resolved('cost')
    const margins = priced.flatMap(({ compared: price }, at) => {
      const cost = costs[at] ?? null
      const margin =
        price === null || cost === null || requestContext.pricingContext.currency !== currency
          ? null
          : marginPercent(price, cost)
      return margin === null ? [] : [margin]
    })
    return {
      code: product.code,
      name: product.name,
      category: categoryOf(product),
      variants: variants.length,
      base: rangeText(resolved('basePrice'), digits),
      cost: rangeText(costs, digits),
      price: rangeText(prices, requestContext.pricingContext.digits),
      leastMargin: margins.sort(compare)[0] ?? null,
    }
  }
  const rows = await slices.map(found.slice(0, MOST_LISTED), toRow)
  return { find, rows, found: found.length, all: all.length }
}

/**
 * Everything a product's sheet shows.
 *
 * Errors  `null` when no product has the code.
 */
export async function loadProductSheet(
  requestContext: RequestContext,
  code: string,
): Promise<ProductSheetView | null> {
  const { prepared, view } = requestContext
  const { store } = prepared
  const found = findShownProduct(store, code)
  if (!found) return null
  const { product, variants } = found
  const { currency, priceDigits, timeZone } = getSettings(store)
  return {
    id: product.id,
    code: product.code,
    name: product.name,
    description: product.description,
    picture: product.picture,
    unit: product.unit,
    categories: product.categories.map((id) =>
      pathToRoot(store.category, id)
        .map(({ name }) => name)
        .reverse(),
    ),
    attributes: Object.entries(product.attributes),
    values: {
      basePrice: product.basePrice,
      cost: product.cost,
      recommendedPrice: product.recommendedPrice,
      floor: product.floor,
      weight: product.weight,
    },
    variants: variants.map((variant) => toSheetRow(requestContext, found, variant.id)),
    as: requestContext.as,
    buyerName: requestContext.buyerName,
    currency,
    digits: priceDigits,
    priceCurrency: requestContext.pricingContext.currency,
    priceDigits: requestContext.pricingContext.digits,
    vantage: requestContext.vantage,
    live: requestContext.live,
    asOf: view.asOf,
    history: toHistoryLines(await latestChangesOf(view, 'product', product.id, SHOWN_CHANGES), timeZone),
  }
}

function toSheetRow(
  requestContext: RequestContext,
  { product, variants }: ProductWithVariants,
  id: string,
): ProductSheetRow {
  const variant = variants.find((each) => each.id === id)
  if (!variant) throw new RangeError(`variant ${id} is not of product ${product.code}`)
  const shown = (field: InheritedField): ShownValue => {
    const { value, from } = resolveValue(product, variant, field)
    return { value, own: from === 'variant' }
  }
  return {
    id,
    sku: variant.sku,
    name: variantName(product, variant),
    values: Object.fromEntries(
      PRODUCT_FIELDS.map(({ field }) => [field, shown(field)]),
    ) as ProductSheetRow['values'],
    ...priceOf(requestContext, id),
    terms: termsOf(requestContext, product, variant),
  }
}

/** What holds of a variant beside its price, for whoever is looked as, and the level each part comes from. */
function termsOf(
  { prepared, pricingContext }: RequestContext,
  product: Product,
  variant: Variant,
): VariantTerms {
  const { store, index } = prepared
  const number = index.numberOf.get(variant.id) as number
  const taxClass = taxClassOf(prepared, number)
  const from =
    variant.taxClass !== null ? 'its own' : product.taxClass !== null ? 'of the product' : 'of the store'
  const { limits, setBy } = findLimits(prepared, pricingContext, number)
  const levels = Object.values(setBy).map((source) =>
    source.kind === 'rule' ? (store.limit.get(source.rule)?.name ?? source.rule) : `its ${source.kind}`,
  )
  const access = findRights(prepared, pricingContext, number)
  return {
    taxClass: taxClass === null ? null : { name: store['tax-class'].get(taxClass)?.name ?? taxClass, from },
    limits: quantityPhrase(limits),
    limitsFrom: [...new Set(levels)].join(', '),
    access: rightsPhrase(access),
  }
}

function priceOf(
  { prepared, pricingContext, quantity }: RequestContext,
  variant: string,
): Pick<ProductSheetRow, 'price' | 'compared' | 'priceFrom'> {
  const number = prepared.index.numberOf.get(variant) as number
  const found = findPrice(prepared, pricingContext, number, { own: quantity, counted: null })
  return {
    price: toPrice(found.units, pricingContext.digits),
    compared: shownInBasis(prepared, pricingContext.currencyView, number, found, storeBasis(prepared)),
    priceFrom: found.entry?.compiled.list.name ?? null,
  }
}
