import { sendOfferPaper } from '@/features/documents/send-paper'
import { currentInstant } from '@/server/clock'
import { withStore } from '@/server/doors/with-store'
import { findQuote } from '@/server/quotes/quote-rows'
import { asMerchant } from '@/server/session/author'
import type { NextRequest } from 'next/server'

interface Context {
  readonly params: Promise<{ number: string }>
}

/** The offer of any quote, as a PDF file. */
export const GET = withStore(async (_request: NextRequest, { steppe, prepared }, { params }: Context) => {
  await asMerchant()
  const { number } = await params
  const quote = /^\d{1,9}$/.test(number) ? await findQuote(steppe.database, Number(number)) : null
  return sendOfferPaper(quote, prepared, currentInstant().getTime())
})
