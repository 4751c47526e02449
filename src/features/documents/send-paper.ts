import 'server-only'

import { getSettings, type Store } from '@/core/store/store'
import { confirmation, deliveryNote, type PaperWords } from '@/server/documents/order-documents'
import { refuse } from '@/server/doors/with-store'
import type { Order } from '@/server/orders/order-rows'
import { formatAmount, formatMoney } from '@/ui/format/amount'
import { formatDay } from '@/ui/format/instant'
import { paymentWords } from '@/ui/format/order-phrases'
import { countryName } from '@/ui/format/place-names'
import type { Decimal } from '@/core/decimal/decimal'

/** A document of an order as a PDF file: `paper` is its kind, `number` that of a delivery note. */
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
    amount: (amount) => formatAmount(amount as Decimal, digits),
    money: (amount) => formatMoney(amount as Decimal, currency, digits),
    country: countryName,
    payment: paymentWords,
  }
  const of = { order, settings, words }
  if (paper === 'confirmation') return pdf(await confirmation(of), `order-${order.number}.pdf`)
  const made = paper === 'delivery-note' ? await deliveryNote(of, Number(number)) : null
  return made
    ? pdf(made, `delivery-note-${number}.pdf`)
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
