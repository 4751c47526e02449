import { merchantRoute } from '@/server/session/permit'
import { sendOfferPaper } from '@/features/documents/send-paper'
import { currentInstant } from '@/server/clock'
import { findQuote } from '@/server/quotes/quote-rows'
import type { NextRequest } from 'next/server'

interface Context {
  readonly params: Promise<{ number: string }>
}

/** The offer of any quote, as a PDF file. */
export const GET = merchantRoute(
  'quotes:work',
  async (_request: NextRequest, { steppe, prepared }, { params }: Context) => {
    const { number } = await params
    const quote = /^\d{1,9}$/.test(number) ? await findQuote(steppe.database, Number(number)) : null
    return sendOfferPaper(quote, prepared, currentInstant().getTime())
  },
)
