import 'server-only'

import { unitPriceOf } from '@/core/catalogue/content'
import { findByCode } from '@/core/catalogue/find-by-code'
import { itemName } from '@/core/catalogue/product'
import { compare, type Decimal, decimal } from '@/core/decimal/decimal'
import { answer } from '@/core/engine/ask'
import { contentOf, displayOf, taxPrice } from '@/core/engine/rules/find-tax'
import { NO_FACTS } from '@/core/promotions/facts'
import { getSettings } from '@/core/store/store'
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

export type MadePriceList =
  | { readonly ok: true; readonly paper: MadePaper }
  | { readonly ok: false; readonly code: 'unknown-category' | 'too-many' | 'nothing' }

/** What whoever is looked as pays, from where they are and when, with the quantities a price changes at. */
export async function makePriceList(
  { prepared, buyerContext, buyerName }: Pick<RequestContext, 'prepared' | 'buyerContext' | 'buyerName'>,
  category: string | null,
): Promise<MadePriceList> {
  const { store, index } = prepared
  const branch = category === null ? null : findByCode(store.category, category)
  if (category !== null && !branch) return { ok: false, code: 'unknown-category' }
  const pricingContext = pricingContextOf(prepared, buyerContext)
  const { currency, digits } = pricingContext
  const shows = displayOf(prepared, pricingContext, 'shop') === 'net' ? 'net' : 'gross'
  const products = shownProducts(store, { category, text: '' })
  if (products.reduce((sum, { variants }) => sum + variants.length, 0) > MOST_ITEMS)
    return { ok: false, code: 'too-many' }
  const minorDigits = findMinorDigits(currency) ?? 2
  const items = await new Slices().map(products, ({ product, variants }) =>
    variants.flatMap((variant): readonly PricedItem[] => {
      const asked = answer(prepared, {
        ...buyerContext,
        ...{ variant: variant.id, quantity: decimal(1), extras: [], basket: [], promotions: NO_FACTS },
      })
      if (!asked.ok || !asked.value.see || !asked.value.seePrice || asked.value.unit === null) return []
      const { unit, basis, breaks, promoted } = asked.value
      const number = index.numberOf.get(variant.id) as number
      const as = (amount: Decimal, of = basis) =>
        taxPrice(prepared, pricingContext, number, { amount, basis: of })[shows]
      const one = promoted?.unit ? as(promoted.unit, promoted.basis) : as(unit)
      const perUnit = unitPriceOf(one, contentOf(prepared, number), minorDigits)
      return [
        {
          sku: variant.sku,
          name: itemName(product, variant),
          prices:
            breaks.length < 2
              ? [{ from: '', price: formatAmount(one, digits) }]
              : breaks.map((each) => ({
                  from: compare(each.from, decimal(1)) <= 0 ? '' : each.from,
                  price: formatAmount(
                    each.promoted ? as(each.promoted.amount, each.promoted.basis) : as(each.unit, each.basis),
                    digits,
                  ),
                })),
          perUnit: perUnit === null ? '' : `${formatAmount(perUnit.amount, minorDigits)} per ${perUnit.per}`,
        },
      ]
    }),
  )
  const all = items.flat()
  if (all.length === 0) return { ok: false, code: 'nothing' }
  const settings = getSettings(store)
  const named = { net: settings.netWords, gross: settings.grossWords }[shows] || DISPLAY_WORDS[shows]
  const content = await priceListPaper(
    {
      ...{ buyer: buyerName, on: buyerContext.at, currency, taxWords: named },
      branch: branch?.name ?? '',
    },
    all,
    { settings, words: wordsIn(settings, { currency, digits: minorDigits, priceDigits: digits }) },
  )
  return { ok: true, paper: { name: `price-list-${branch?.code ?? 'all'}.pdf`, content } }
}
