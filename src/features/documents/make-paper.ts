import 'server-only'

import type { Decimal } from '@/core/decimal/decimal'
import { findRights } from '@/core/engine/rules/find-rights'
import type { PreparedStore } from '@/core/engine/context/prepared-store'
import { localDay } from '@/core/predicates/schedule-outlook'
import { standingOfQuote } from '@/core/quote/quote-standing'
import { getSettings, type Settings, type Store } from '@/core/store/store'
import { offerPaper } from '@/server/documents/offer-document'
import { confirmation, creditNotePaper, deliveryNote, invoicePaper } from '@/server/documents/order-documents'
import type { PaperWords } from '@/server/documents/paper-parts'
import { invoiceUbl } from '@/server/documents/ubl'
import { pricingContextOf } from '@/server/engine/request-context'
import type { Order } from '@/server/orders/order-rows'
import { contextOfQuote } from '@/server/quotes/price-working'
import type { Quote } from '@/server/quotes/quote-rows'
import { formatAmount, formatMoney } from '@/ui/format/amount'
import { formatDay } from '@/ui/format/instant'
import { paymentWords } from '@/ui/format/order-phrases'
import { countryName } from '@/ui/format/place-names'

/** Those that have a number of their own. */
const PAPERS: Readonly<Record<string, typeof deliveryNote>> = {
  'delivery-note': deliveryNote,
  invoice: invoicePaper,
  'credit-note': creditNotePaper,
}

export interface MadePaper {
  readonly name: string
  readonly content: Uint8Array
}

/** A document of an order as a PDF file: `paper` is its kind, `number` its number, where it has one. Errors  `null` for none of these. */
export async function makePaper(
  order: Order,
  store: Store,
  { paper, number }: { readonly paper: string | null; readonly number: string | null },
): Promise<MadePaper | null> {
  const settings = getSettings(store)
  const { currency, digits } = order.document
  const of = { order, settings, words: wordsIn(settings, { currency, digits, priceDigits: digits }) }
  if (paper === 'confirmation') return { name: `order-${order.number}.pdf`, content: await confirmation(of) }
  const make = paper !== null && Object.hasOwn(PAPERS, paper) ? PAPERS[paper] : undefined
  const content = make ? await make(of, Number(number)) : null
  return content && { name: `${paper}-${number}.pdf`, content }
}

/** An invoice or credit note as UBL. Errors  a sentence where it cannot be written so; `null` for none of the number. */
export function makeUbl(
  order: Order,
  store: Store,
  { paper, number }: { readonly paper: string | null; readonly number: string | null },
): MadePaper | string | null {
  if (paper !== 'invoice' && paper !== 'credit-note') return null
  const settings = getSettings(store)
  const isoDay = (at: number) => localDay(at, settings.timeZone)
  const made = invoiceUbl(order, settings, { kind: paper, number: Number(number), isoDay })
  if (made.ok) return { name: `${paper}-${number}.xml`, content: new TextEncoder().encode(made.xml) }
  return made.code === 'none'
    ? null
    : 'Several taxes fall on one line of it, which this format cannot say. Take the PDF.'
}

/** The offer of a quote that stands, or stood last, as a PDF file. Errors  `null` before there is one. */
export async function makeOfferPaper(
  quote: Quote,
  prepared: PreparedStore,
  now: number,
): Promise<MadePaper | null> {
  const last = standingOfQuote(quote.events).offers.at(-1)
  if (!last) return null
  const settings = getSettings(prepared.store)
  const pricingContext = pricingContextOf(prepared, contextOfQuote(quote, now))
  const content = await offerPaper(
    quote,
    {
      ...last,
      // What they see no price of has none on paper either.
      showsTheirs: ({ variant }) => {
        const item = prepared.index.numberOf.get(variant)
        return item !== undefined && findRights(prepared, pricingContext, item).seePrice
      },
    },
    { settings, words: wordsIn(settings, quote.request) },
  )
  return { name: `offer-Q-${quote.number}.pdf`, content }
}

/** How documents write days and amounts. */
export function wordsIn(
  settings: Settings,
  {
    currency,
    digits,
    priceDigits,
  }: { readonly currency: string; readonly digits: number; readonly priceDigits: number },
): PaperWords {
  return {
    day: (at) => formatDay(new Date(at), settings.timeZone),
    isoDay: (at) => localDay(at, settings.timeZone),
    amount: (amount) => formatAmount(amount as Decimal, digits),
    price: (amount) => formatAmount(amount as Decimal, priceDigits),
    money: (amount) => formatMoney(amount as Decimal, currency, digits),
    country: countryName,
    payment: paymentWords,
  }
}
