import { shopRoute } from '@/server/session/permit'
import { sendOfferPaper } from '@/features/documents/send-paper'
import { enterShopPage } from '@/features/shop/entrance/enter'
import { findQuote } from '@/server/quotes/quote-rows'
import { ownerOf } from '@/server/session/shop-session'
import type { NextRequest } from 'next/server'

interface Context {
  readonly params: Promise<{ number: string }>
}

/** The offer to one of the buyer's own quotes, as a PDF file. */
export const GET = shopRoute(async (_request: NextRequest, { steppe, prepared }, { params }: Context) => {
  const visitor = await enterShopPage()
  const { number } = await params
  const quote = /^\d{1,9}$/.test(number)
    ? await findQuote(steppe.database, Number(number), ownerOf(visitor))
    : null
  return sendOfferPaper(quote, prepared, visitor.buyerContext.at)
})
