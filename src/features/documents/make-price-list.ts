import 'server-only'

import { unitPriceOf } from '@/core/catalogue/content'
import type { Category } from '@/core/catalogue/category'
import { findByCode } from '@/core/catalogue/find-by-code'
import { itemName } from '@/core/catalogue/product'
import { type Decimal, decimal, ONE } from '@/core/decimal/decimal'
import { answer } from '@/core/engine/ask'
import { listedBasis, type ListedPrice, listedPrices } from '@/core/engine/listed-prices'
import { contentOf } from '@/core/engine/rules/find-tax'
import { NO_FACTS } from '@/core/promotions/facts'
import { getSettings, type Store } from '@/core/store/store'
import { findMinorDigits } from '@/core/currency/iso-4217'
import { Slices } from '@/server/doors/slices'
import { type PricedItem, priceListPaper } from '@/server/documents/price-list-document'
import { shownProducts } from '@/server/engine/catalogue-order'
import { pricingContextOf, type RequestContext } from '@/server/engine/request-context'
import { formatAmount } from '@/ui/format/amount'
import { DISPLAY_WORDS } from '@/ui/format/terms-phrases'
import { type MadePaper, wordsIn } from './make-paper'

/** More is no list anybody reads: a branch of it is. */
export const MOST_ITEMS = 3_000

/** An item of a price list, exactly. */
interface ListedItem {
  readonly sku: string
  readonly gtin: string | null
  readonly name: string
  /** From the top: `Hives > Frames`. */
  readonly category: string
  readonly prices: readonly ListedPrice[]
  /** What a kilogram, litre, metre… of it costs; `null` where its content is not stated. */
  readonly perUnit: { readonly amount: Decimal; readonly per: string } | null
}

/** What a buyer pays, item by item in the order of the catalogue. */
export interface ListedPrices {
  readonly buyer: string
  /** Epoch milliseconds. */
  readonly on: number
  readonly currency: string
  /** Of prices, and of what can be paid. */
  readonly digits: number
  readonly minorDigits: number
  readonly shows: 'net' | 'gross'
  readonly branch: Category | null
  readonly items: readonly ListedItem[]
}

type NoList = { readonly ok: false; readonly code: 'unknown-category' | 'too-many' | 'nothing' }
export type GatheredPrices = { readonly ok: true; readonly list: ListedPrices } | NoList
export type MadePriceList = { readonly ok: true; readonly paper: MadePaper } | NoList

/** What whoever is looked as pays, from where they are and when, with the quantities a price changes at. */
export async function gatherPrices(
  { prepared, buyerContext, buyerName }: Pick<RequestContext, 'prepared' | 'buyerContext' | 'buyerName'>,
  category: string | null,
  most: number,
): Promise<GatheredPrices> {
  const { store, index } = prepared
  const branch = category === null ? null : findByCode(store.category, category)
  if (category !== null && !branch) return { ok: false, code: 'unknown-category' }
  const pricingContext = pricingContextOf(prepared, buyerContext)
  const { currency, digits } = pricingContext
  const shows = listedBasis(prepared, pricingContext)
  const products = shownProducts(store, { category, text: '' })
  if (products.reduce((sum, { variants }) => sum + variants.length, 0) > most)
    return { ok: false, code: 'too-many' }
  const minorDigits = findMinorDigits(currency) ?? 2
  const items = await new Slices().map(products, ({ product, variants }) =>
    variants.flatMap((variant): readonly ListedItem[] => {
      const asked = answer(prepared, {
        ...buyerContext,
        ...{ variant: variant.id, quantity: decimal(1), extras: [], basket: [], promotions: NO_FACTS },
      })
      const number = index.numberOf.get(variant.id) as number
      const prices = asked.ok ? listedPrices(prepared, pricingContext, number, asked.value) : null
      if (!prices) return []
      return [
        {
          ...{ sku: variant.sku, gtin: variant.gtin, name: itemName(product, variant) },
          category: pathOf(store, product.categories[0]),
          prices,
          perUnit: unitPriceOf(prices[0].price, contentOf(prepared, number), minorDigits),
        },
      ]
    }),
  )
  const all = items.flat()
  if (all.length === 0) return { ok: false, code: 'nothing' }
  return {
    ok: true,
    list: {
      ...{ buyer: buyerName, on: buyerContext.at, currency, digits, minorDigits, shows },
      ...{ branch: branch ?? null, items: all },
    },
  }
}

function pathOf(store: Store, category: string | undefined): string {
  const names: string[] = []
  for (let id = category ?? null; id !== null;) {
    const found: Category | undefined = store.category.get(id)
    if (found) names.unshift(found.name)
    id = found?.parent ?? null
  }
  return names.join(' > ')
}

/** The same as a PDF file. */
export async function makePriceList(
  look: Pick<RequestContext, 'prepared' | 'buyerContext' | 'buyerName'>,
  category: string | null,
): Promise<MadePriceList> {
  const gathered = await gatherPrices(look, category, MOST_ITEMS)
  if (!gathered.ok) return gathered
  const { buyer, on, currency, digits, minorDigits, shows, branch, items } = gathered.list
  const settings = getSettings(look.prepared.store)
  const named = { net: settings.netWords, gross: settings.grossWords }[shows] || DISPLAY_WORDS[shows]
  const content = await priceListPaper(
    { buyer, on, currency, taxWords: named, branch: branch?.name ?? '' },
    items.map(({ sku, name, prices, perUnit }): PricedItem => ({
      ...{ sku, name },
      prices: prices.map(({ from, price }) => ({
        from: from === ONE ? '' : from,
        price: formatAmount(price, digits),
      })),
      perUnit: perUnit === null ? '' : `${formatAmount(perUnit.amount, minorDigits)} per ${perUnit.per}`,
    })),
    { settings, words: wordsIn(settings, { currency, digits: minorDigits, priceDigits: digits }) },
  )
  return { ok: true, paper: { name: `price-list-${branch?.code ?? 'all'}.pdf`, content } }
}
