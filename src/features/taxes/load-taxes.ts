import 'server-only'

import { findBySku, nearestSku } from '@/core/catalogue/find-by-code'
import { type Decimal, decimal } from '@/core/decimal/decimal'
import { answer } from '@/core/engine/ask'
import type { PriceTax } from '@/core/engine/rules/find-tax'
import { toPlace } from '@/core/engine/context/vantage'
import { getSettings, priceDigitsOf, type Store } from '@/core/store/store'
import { countryName } from '@/ui/format/place-names'
import { recordHref } from '@/ui/frame/record-href'
import type { RequestContext } from '@/server/engine/request-context'
import { formatMoney } from '@/ui/format/amount'
import { taxLines } from '@/ui/format/tax-lines'
import { columnTitles, rateColumns, type RateRow, rateRows, writeRates } from './rates-text'

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
  readonly taxes: readonly { readonly code: string; readonly name: string; readonly href: string }[]
  /** How many variants have each class, in the order of the columns; accounts in each country. */
  readonly variants: readonly number[]
  readonly accounts: Readonly<Record<string, number>>
  /** How the store computes tax, in words. */
  readonly settings: readonly (readonly [name: string, value: string])[]
  readonly buyer: string
  /** Epoch milliseconds of the vantage. */
  readonly at: number
  readonly live: boolean
  /** The change set it is of. */
  readonly asOf: number
  readonly tried: TriedTax
  readonly result: {
    readonly title: string
    /** The answer in one line: "23 % VAT on €21.65 = €4.98, so they pay €26.63". */
    readonly answer: string
    readonly lines: ReturnType<typeof taxLines>
    readonly problem: string
  } | null
}

export function loadTaxes(requestContext: RequestContext, tried: TriedTax): TaxesView {
  const { store } = requestContext.prepared
  return {
    columns: columnTitles(store),
    rows: rateRows(store),
    text: writeRates(store),
    taxes: [...store.tax.values()]
      .filter(({ status }) => status === 'active')
      .sort((left, right) => left.position - right.position)
      .map(({ code, name }) => ({ code, name, href: recordHref('tax-names', code) })),
    variants: variantsByClass(store),
    accounts: accountsByCountry(store),
    settings: settingsOf(store),
    buyer: requestContext.buyerName,
    at: requestContext.buyerContext.at,
    live: requestContext.live,
    asOf: requestContext.view.asOf,
    tried,
    result: tried.sku === '' ? null : tryTax(requestContext, tried),
  }
}

function variantsByClass(store: Store): readonly number[] {
  const usual = getSettings(store).taxClass
  const counts = new Map<string | null, number>()
  for (const variant of store.variant.values()) {
    const id = variant.taxClass ?? store.product.get(variant.product)?.taxClass ?? usual
    counts.set(id, (counts.get(id) ?? 0) + 1)
  }
  return rateColumns(store).map((each) => (each ? (counts.get(each.id) ?? 0) : store.variant.size))
}

function accountsByCountry(store: Store): Readonly<Record<string, number>> {
  const counts: Record<string, number> = {}
  for (const { country, status } of store.account.values())
    if (status === 'active') counts[country] = (counts[country] ?? 0) + 1
  return counts
}

function settingsOf(store: Store): TaxesView['settings'] {
  const { taxBasis, taxPlace, taxRounding, taxTotals, taxRegistrations } = getSettings(store)
  return [
    ['Prices are entered', taxBasis === 'net' ? 'without tax' : 'with tax'],
    [
      'Tax goes by',
      { delivery: 'the delivery address', billing: 'the seat of the account', store: 'where the store is' }[
        taxPlace
      ],
    ],
    ['Rounded', taxRounding === 'line' ? 'on each line' : 'once for each rate of an order'],
    ['Totals list it', taxTotals === 'by-name' ? 'by name' : 'as one sum'],
    [
      'Registered',
      Object.entries(taxRegistrations)
        .map(([land, number]) => `${countryName(land)}, ${number}`)
        .join('; ') || 'nowhere',
    ],
  ]
}

/** The tax of one piece for whoever is looked as, at the address that was typed. */
function tryTax({ prepared, buyerContext }: RequestContext, tried: TriedTax): TaxesView['result'] {
  const { store } = prepared
  const variant = findBySku(store.variant, tried.sku)
  if (!variant) {
    const nearest = nearestSku(store.variant, tried.sku)
    const problem = `There is no SKU “${tried.sku}”.${nearest ? ` Did you mean ${nearest}?` : ''}`
    return { title: '', answer: '', lines: [], problem }
  }
  const land = tried.state === '' ? tried.country : `${tried.country}-${tried.state}`
  const deliverTo = toPlace(`${land}/${tried.postcode}/${tried.city}`)
  const asked = answer(prepared, {
    ...buyerContext,
    deliverTo: tried.country === '' ? buyerContext.deliverTo : deliverTo,
    variant: variant.id,
    quantity: decimal(1),
    extras: [],
    basket: [],
  })
  if (!asked.ok) return { title: '', answer: '', lines: [], problem: 'Nobody can buy from there.' }
  const { tax, currency } = asked.value
  return {
    title: store.product.get(variant.product)?.name ?? variant.sku,
    answer: tax ? answerOf(tax, currency, priceDigitsOf(store, currency)) : '',
    lines: taxLines(store, tax, currency, priceDigitsOf(store, currency)),
    problem: tax ? '' : 'There is no price to tax.',
  }
}

function answerOf(tax: PriceTax, currency: string, digits: number): string {
  const money = (amount: Decimal) => formatMoney(amount, currency, digits)
  if (tax.untaxed === 'certificate') return `No tax, by certificate: they pay ${money(tax.net)}`
  if (tax.untaxed === 'reverse-charge')
    return `No tax, reverse charge: they pay ${money(tax.net)} and account for the tax themselves`
  if (tax.taxes.length === 0) return `No tax: none has a rate there, so they pay ${money(tax.net)}`
  const parts = tax.taxes.map(
    ({ levy, on, amount }) => `${levy.percent} % ${levy.tax.name} on ${money(on)} = ${money(amount)}`,
  )
  return `${parts.join(' and ')}, so they pay ${money(tax.gross)}`
}
