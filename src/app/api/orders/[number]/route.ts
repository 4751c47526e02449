import { merchantRoute } from '@/server/session/permit'
import { sendPaper } from '@/features/documents/send-paper'
import { findOrder } from '@/server/orders/order-rows'
import type { NextRequest } from 'next/server'

interface Context {
  readonly params: Promise<{ number: string }>
}

/** A document of any order, as a PDF file: `?paper=confirmation`, or `?paper=delivery-note&number=7`; invoices and credit notes with `&format=ubl` as UBL. */
export const GET = merchantRoute(
  'orders:look',
  async (request: NextRequest, { steppe, prepared }, { params }: Context) => {
    const { number } = await params
    const order = /^\d{1,9}$/.test(number) ? await findOrder(steppe.database, Number(number)) : null
    const fields = request.nextUrl.searchParams
    const wanted = { paper: fields.get('paper'), number: fields.get('number') }
    return sendPaper(order, prepared.store, wanted, fields.get('format'))
  },
)
