import type { PricingContext } from '@/core/engine/context/pricing-context'
import type { Vantage } from '@/core/engine/context/vantage'
import { getSettings, type Store } from '@/core/store/store'
import { formatDay } from '@/ui/format/instant'

type Part = keyof Vantage

/** Whether the columns beside differ in a part of the vantage, so that a heading must say it. */
function differs(part: Part, columns: readonly Vantage[]): boolean {
  return columns.some((column) => column[part] !== columns[0]?.[part])
}

/** Who a column is for; with the quantity where columns differ in it. */
export function columnTitle(buyerName: string, vantage: Vantage, columns: readonly Vantage[]): string {
  return differs('buying', columns) ? `${buyerName} × ${vantage.buying}` : buyerName
}

/** What else tells a column from its neighbours, else where its prices come from. */
export function columnSubtitle(
  store: Store,
  vantage: Vantage,
  columns: readonly Vantage[],
  pricingContext: PricingContext,
  own: string,
): string {
  const { timeZone, currency } = getSettings(store)
  const words = [
    ...(pricingContext.currency !== currency || differs('currency', columns)
      ? [pricingContext.currency]
      : []),
    ...(differs('deliverTo', columns) && vantage.deliverTo ? [`to ${vantage.deliverTo}`] : []),
    ...(differs('channel', columns) && vantage.channel ? [`in ${vantage.channel}`] : []),
    ...(differs('on', columns) ? [vantage.on ? formatDay(new Date(vantage.on), timeZone) : 'today'] : []),
  ]
  if (words.length > 0) return words.join(' · ')
  return vantage.as === 'guest' ? 'not signed in' : own
}
