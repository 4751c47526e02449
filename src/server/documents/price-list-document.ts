import 'server-only'

import type { Settings } from '@/core/store/store'
import type { TableCell } from 'pdfmake/interfaces'
import { type PaperWords, right, soft, table } from './paper-parts'
import { makePdf } from './pdf'

/** An item of a price list: what one costs from which quantity on, as words. */
export interface PricedItem {
  readonly sku: string
  readonly name: string
  /** The smallest quantity is empty where one is enough. */
  readonly prices: readonly { readonly from: string; readonly price: string }[]
  /** What a kilogram, litre, metre… of it costs; empty where its content is not stated. */
  readonly perUnit: string
}

/** What some buyer pays, item by item, as they would file it. */
export function priceListPaper(
  {
    buyer,
    on,
    currency,
    taxWords,
    branch,
  }: {
    readonly buyer: string
    /** Epoch milliseconds. */
    readonly on: number
    readonly currency: string
    readonly taxWords: string
    /** Empty for everything. */
    readonly branch: string
  },
  items: readonly PricedItem[],
  { settings, words }: { readonly settings: Settings; readonly words: PaperWords },
): Promise<Uint8Array> {
  const title = branch === '' ? 'Price list' : `Price list: ${branch}`
  const body = items.flatMap(({ sku, name, prices, perUnit }): TableCell[][] =>
    prices.map(({ from, price }, at): TableCell[] => [
      { text: at === 0 ? sku : '' },
      at === 0 ? { stack: [name, ...(perUnit === '' ? [] : [soft(perUnit)])] } : { text: '' },
      right(from),
      right(price),
    ]),
  )
  return makePdf(
    {
      title,
      from: [settings.name, ...(settings.shopContact === '' ? [] : [settings.shopContact])],
      to: [buyer],
      facts: [
        ['Valid on', words.day(on)],
        ['Prices', `in ${currency}, ${taxWords}`],
        ['Items', String(items.length)],
      ],
    },
    [table(['SKU', 'Item', 'From', 'Each'], [76, '*', 44, 68], body)],
  )
}
