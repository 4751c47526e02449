import 'server-only'

import { QUANTITY_UNITS } from '@/core/engine/lists/compiled-line'
import { toPrice } from '@/core/engine/lists/price-step'
import { isBelow, marginOf, movePercent } from '@/core/impact/summary'
import { draftImpact, type DraftView } from '@/server/drafts/draft-impact'
import { writeTable } from '@/server/imports/write-table'
import { nameOfClass } from './class-names'

const HEADER = [
  'Buyers',
  'Currency',
  'SKU',
  'From quantity',
  'Live price',
  'Draft price',
  'Change %',
  'Live margin %',
  'Draft margin %',
  'Cost',
  'Below cost',
  'Above public price',
]

/** Every price a draft moves, as a CSV file (RFC 4180). */
export async function exportImpact(view: DraftView): Promise<string> {
  const { store } = view.prepared
  const { live } = view.draft
  const rows = (await draftImpact(view)).flatMap(({ of, prices, digits, currency }) => {
    const { name } = nameOfClass(of, store, live.store)
    const amount = (units: number) => toPrice(Math.round(units), digits) ?? ''
    return prices.map((price) => [
      name,
      currency.after ?? currency.before ?? '',
      (store.variant.get(price.variant) ?? live.store.variant.get(price.variant))?.sku ?? price.variant,
      String(price.quantity / QUANTITY_UNITS),
      amount(price.before),
      amount(price.after),
      movePercent(price) ?? '',
      marginOf(price.before, price.costBefore) ?? '',
      marginOf(price.after, price.costAfter) ?? '',
      amount(price.costAfter),
      isBelow(price.after, price.costAfter) ? 'yes' : '',
      price.isAbovePublic ? 'yes' : '',
    ])
  })
  return writeTable(HEADER, rows)
}
