import 'server-only'

import type { PreparedStore } from '@/core/engine/context/prepared-store'
import type { Store } from '@/core/store/store'
import { refuse } from '@/server/doors/with-store'
import type { Order } from '@/server/orders/order-rows'
import type { Quote } from '@/server/quotes/quote-rows'
import { type MadePaper, makeOfferPaper, makePaper, makeUbl } from './make-paper'

/** A document of an order as an answer: see `makePaper`. */
export async function sendPaper(
  order: Order | null,
  store: Store,
  wanted: { readonly paper: string | null; readonly number: string | null },
  format: string | null = null,
): Promise<Response> {
  if (!order) return refuse(404, 'no-such-order', 'There is no such order.')
  if (format === 'ubl') {
    const made = makeUbl(order, store, wanted)
    if (typeof made === 'string') return refuse(409, 'several-taxes', made)
    return made
      ? sendFile(made, 'application/xml')
      : refuse(404, 'no-such-paper', 'This order has no such document.')
  }
  const made = await makePaper(order, store, wanted)
  return made
    ? sendFile(made, 'application/pdf')
    : refuse(404, 'no-such-paper', 'This order has no such document.')
}

/** The offer of a quote as an answer: see `makeOfferPaper`. */
export async function sendOfferPaper(
  quote: Quote | null,
  prepared: PreparedStore,
  now: number,
): Promise<Response> {
  const made = quote && (await makeOfferPaper(quote, prepared, now))
  return made ? sendFile(made, 'application/pdf') : refuse(404, 'no-such-offer', 'There is no such offer.')
}

/** A made document as an answer. */
export function sendFile({ name, content }: MadePaper, type: string): Response {
  return new Response(content as Uint8Array<ArrayBuffer>, {
    headers: {
      'content-type': type,
      'content-disposition': `inline; filename="${name}"`,
      'cache-control': 'private, no-store',
    },
  })
}
