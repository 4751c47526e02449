import 'server-only'

import { findBySku } from '@/core/catalogue/find-by-code'
import { itemName } from '@/core/catalogue/product'
import { type PricePeriod, pricePeriods } from '@/core/engine/price/price-periods'
import { priceDigitsOf, type Store } from '@/core/store/store'
import type { RequestContext } from '@/server/engine/request-context'
import { unknownSkuText } from '@/server/engine/unknown-sku'
import { formatMoney } from '@/ui/format/amount'
import { recordHref } from '@/ui/frame/record-href'

/** A time in which a list decides the price, holds and is beaten, or nothing but the base price is left. */
interface LaneBar {
  /** Shares of the drawn time. */
  readonly from: number
  readonly to: number
  readonly kind: 'decides' | 'beaten' | 'base' | 'nothing'
  readonly words: string
}

/** A list, or the base price, over the drawn time. */
interface Lane {
  readonly name: string
  readonly href: string | null
  readonly bars: readonly LaneBar[]
}

/** What decides the price of one item for whoever is looked as. */
export interface ItemLanes {
  /** As it was asked; empty for nothing. */
  readonly sku: string
  readonly problem: string
  readonly title: string
  readonly buyer: string
  readonly lanes: readonly Lane[]
}

const BASE = ''

/** The lanes of an item; `start` and `end` (epoch milliseconds) are what is drawn, as the store stands. */
export function itemLanes(
  { view, buyerContext, buyerName, quantity }: RequestContext,
  sku: string,
  { start, end, day }: { readonly start: number; readonly end: number; readonly day: (at: number) => string },
): ItemLanes {
  const { store } = view.prepared
  const none = { sku, problem: '', title: '', buyer: buyerName, lanes: [] }
  if (sku === '') return none
  const variant = findBySku(store.variant, sku)
  const product = variant && store.product.get(variant.product)
  if (!variant || !product) return { ...none, problem: unknownSkuText(store, sku) }
  const asked = { from: buyerContext, variant: variant.id, quantity }
  const periods = pricePeriods(view.prepared, asked, { since: start, until: end })
  const share = (at: number) => (at - start) / (end - start)
  const bars = new Map<string, LaneBar[]>()
  const add = (lane: string, bar: LaneBar, isOn: boolean) => {
    const known = bars.get(lane) ?? []
    bars.set(lane, known)
    const last = known.at(-1)
    // What goes on is one bar, whatever else starts or ends meanwhile.
    if (isOn && last?.kind === bar.kind && last.to === bar.from && last.words === bar.words)
      known[known.length - 1] = { ...last, to: bar.to }
    else known.push(bar)
  }
  for (const [place, period] of periods.entries()) {
    const until = periods[place + 1]?.since ?? end
    const [from, to] = [share(period.since), share(until)]
    const price = priceText(period, store)
    const decides = period.list === null ? (period.price === null ? 'nothing' : 'base') : 'decides'
    add(period.list ?? BASE, { from, to, kind: decides, words: price }, true)
    for (const list of period.beaten)
      add(list, { from, to, kind: 'beaten', words: 'another one decides' }, true)
  }
  return {
    ...none,
    title: itemName(product, variant),
    lanes: [...bars]
      // The base price last: it is what is left.
      .sort(([left], [right]) => Number(left === BASE) - Number(right === BASE))
      .map(([id, of]) => {
        const list = store['price-list'].get(id)
        return {
          name: list?.name ?? (of.every(({ kind }) => kind === 'nothing') ? 'No price' : 'Base price'),
          href: list ? recordHref('price-lists', list.code) : null,
          bars: of.map((bar) => ({ ...bar, words: `${bar.words}, ${timeText(bar, { start, end, day })}` })),
        }
      }),
  }
}

function priceText({ price, currency }: PricePeriod, store: Store): string {
  return price === null ? 'no price' : formatMoney(price, currency, priceDigitsOf(store, currency))
}

function timeText(
  { from, to }: LaneBar,
  { start, end, day }: { readonly start: number; readonly end: number; readonly day: (at: number) => string },
): string {
  const at = (share: number) => day(start + share * (end - start))
  return `${from <= 0 ? 'since before' : `from ${at(from)}`}${to >= 1 ? '' : ` to ${at(to)}`}`
}
