import 'server-only'

import { localDay } from '@/core/predicates/schedule-outlook'
import { getSettings, type Store } from '@/core/store/store'
import {
  confirmation,
  creditNotePaper,
  deliveryNote,
  invoicePaper,
  type PaperWords,
} from '@/server/documents/order-documents'
import { refuse } from '@/server/doors/with-store'
import type { Order } from '@/server/orders/order-rows'
import { formatAmount, formatMoney } from '@/ui/format/amount'
import { formatDay } from '@/ui/format/instant'
import { paymentWords } from '@/ui/format/order-phrases'
import { countryName } from '@/ui/format/place-names'
import type { Decimal } from '@/core/decimal/decimal'

/** Those that have a number of their own. */
const PAPERS: Readonly<Record<string, typeof deliveryNote>> = {
  'delivery-note': deliveryNote,
  invoice: invoicePaper,
  'credit-note': creditNotePaper,
}

/** A document of an order as a PDF file: `paper` is its kind, `number` its number, where it has one. */
export async function sendPaper(
  order: Order | null,
  store: Store,
  { paper, number }: { readonly paper: string | null; readonly number: string | null },
): Promise<Response> {
  if (!order) return refuse(404, 'no-such-order', 'There is no such order.')
  const settings = getSettings(store)
  const { currency, digits } = order.document
  const words: PaperWords = {
    day: (at) => formatDay(new Date(at), settings.timeZone),
    isoDay: (at) => localDay(at, settings.timeZone),
    amount: (amount) => formatAmount(amount as Decimal, digits),
    money: (amount) => formatMoney(amount as Decimal, currency, digits),
    country: countryName,
    payment: paymentWords,
  }
  const of = { order, settings, words }
  if (paper === 'confirmation') return pdf(await confirmation(of), `order-${order.number}.pdf`)
  const make = paper === null ? undefined : PAPERS[paper]
  const made = make ? await make(of, Number(number)) : null
  return made
    ? pdf(made, `${paper}-${number}.pdf`)
    : refuse(404, 'no-such-paper', 'This order has no such document.')
}

function pdf(bytes: Uint8Array, name: string): Response {
  return new Response(bytes as Uint8Array<ArrayBuffer>, {
    headers: {
      'content-type': 'application/pdf',
      'content-disposition': `inline; filename="${name}"`,
      'cache-control': 'private, no-store',
    },
  })
}
