import { shopRoute } from '@/server/session/permit'
import { sendPaper } from '@/features/documents/send-paper'
import { enterShopPage } from '@/features/shop/entrance/enter'
import { findOrder } from '@/server/orders/order-rows'
import { ownerOf } from '@/server/session/shop-session'
import type { NextRequest } from 'next/server'

interface Context {
  readonly params: Promise<{ number: string }>
}

/** A document of one of the buyer's own orders, as a PDF file. */
export const GET = shopRoute(async (request: NextRequest, { steppe, prepared }, { params }: Context) => {
  const visitor = await enterShopPage()
  const { number } = await params
  const order = /^\d{1,9}$/.test(number)
    ? await findOrder(steppe.database, Number(number), ownerOf(visitor))
    : null
  const fields = request.nextUrl.searchParams
  const wanted = { paper: fields.get('paper'), number: fields.get('number') }
  return sendPaper(order, prepared.store, wanted, fields.get('format'))
})
