import { shopRoute } from '@/server/session/permit'
import { sendQuoteFile } from '@/features/documents/send-quote-file'
import { enterShopPage } from '@/features/shop/entrance/enter'
import { findQuote } from '@/server/quotes/quote-rows'
import { ownerOf } from '@/server/session/shop-session'
import type { NextRequest } from 'next/server'

interface Context {
  readonly params: Promise<{ number: string; id: string }>
}

/** A file that came with one of the buyer's own requests. */
export const GET = shopRoute(async (_request: NextRequest, { steppe }, { params }: Context) => {
  const visitor = await enterShopPage()
  const { number, id } = await params
  const quote = /^\d{1,9}$/.test(number)
    ? await findQuote(steppe.database, Number(number), ownerOf(visitor))
    : null
  return sendQuoteFile(steppe, quote, id)
})
