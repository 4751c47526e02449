import 'server-only'

import { fromUnits } from '@/core/engine/lists/price-step'
import { isBelow, movePercent } from '@/core/impact/summary'
import { marginPercent } from '@/core/price/margin'
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
    const amount = (units: number) => (Number.isNaN(units) ? '' : fromUnits(Math.round(units), digits))
    const margin = (price: number, cost: number) =>
      Number.isNaN(price + cost)
        ? ''
        : (marginPercent(fromUnits(Math.round(price), digits), fromUnits(Math.round(cost), digits)) ?? '')
    return prices.map((price) => [
      name,
      currency.after ?? currency.before ?? '',
      (store.variant.get(price.variant) ?? live.store.variant.get(price.variant))?.sku ?? price.variant,
      String(price.quantity / 1000),
      amount(price.before),
      amount(price.after),
      movePercent(price)?.toFixed(1) ?? '',
      margin(price.before, price.costBefore),
      margin(price.after, price.costAfter),
      amount(price.costAfter),
      isBelow(price.after, price.costAfter) ? 'yes' : '',
      price.isAbovePublic ? 'yes' : '',
    ])
  })
  return writeTable(HEADER, rows)
}
