import 'server-only'

import { findBySku, nearestSku } from '@/core/catalogue/find-by-code'
import { decimal } from '@/core/decimal/decimal'
import { answer } from '@/core/engine/ask'
import { toPlace } from '@/core/engine/vantage'
import { priceDigitsOf } from '@/core/store/store'
import type { Outlook } from '@/server/engine/look-from'
import { taxLines } from '@/ui/format/tax-lines'
import { columnTitles, type RateRow, rateRows, writeRates } from './rates-text'

/** What was tried: an item delivered somewhere. */
export interface TriedTax {
  readonly sku: string
  readonly country: string
  readonly state: string
  readonly postcode: string
  readonly city: string
}

export interface TaxesView {
  readonly columns: readonly string[]
  readonly rows: readonly RateRow[]
  /** All of it for a spreadsheet. */
  readonly text: string
  readonly taxes: readonly { readonly code: string; readonly name: string }[]
  readonly live: boolean
  /** The change set it is of. */
  readonly asOf: number
  readonly tried: TriedTax
  readonly result: {
    readonly title: string
    readonly lines: ReturnType<typeof taxLines>
    readonly problem: string
  } | null
}

export function loadTaxes(outlook: Outlook, tried: TriedTax): TaxesView {
  const { store } = outlook.prepared
  return {
    columns: columnTitles(store),
    rows: rateRows(store),
    text: writeRates(store),
    taxes: [...store.tax.values()].map(({ code, name }) => ({ code, name })),
    live: outlook.live,
    asOf: outlook.steppe.lastChangeSet,
    tried,
    result: tried.sku === '' ? null : tryTax(outlook, tried),
  }
}

/** The tax of one piece for whoever is looked as, at the address that was typed. */
function tryTax({ prepared, standpoint }: Outlook, tried: TriedTax): TaxesView['result'] {
  const { store } = prepared
  const variant = findBySku(store.variant, tried.sku)
  if (!variant) {
    const nearest = nearestSku(store.variant, tried.sku)
    const problem = `There is no SKU “${tried.sku}”.${nearest ? ` Did you mean ${nearest}?` : ''}`
    return { title: '', lines: [], problem }
  }
  const land = tried.state === '' ? tried.country : `${tried.country}-${tried.state}`
  const deliverTo = toPlace(`${land}/${tried.postcode}/${tried.city}`)
  const asked = answer(prepared, {
    ...standpoint,
    deliverTo: tried.country === '' ? standpoint.deliverTo : deliverTo,
    variant: variant.id,
    quantity: decimal(1),
    extras: [],
    basket: [],
  })
  if (!asked.ok) return { title: '', lines: [], problem: 'Nobody can buy from there.' }
  const { tax, currency } = asked.value
  return {
    title: store.product.get(variant.product)?.name ?? variant.sku,
    lines: taxLines(store, tax, currency, priceDigitsOf(store, currency)),
    problem: tax ? '' : 'There is no price to tax.',
  }
}
