import { merchantRoute } from '@/server/session/permit'
import { sendQuoteFile } from '@/features/documents/send-quote-file'
import { findQuote } from '@/server/quotes/quote-rows'
import type { NextRequest } from 'next/server'

interface Context {
  readonly params: Promise<{ number: string; id: string }>
}

/** A file that came with any request for a quote. */
export const GET = merchantRoute(
  'quotes:work',
  async (_request: NextRequest, { steppe }, { params }: Context) => {
    const { number, id } = await params
    const quote = /^\d{1,9}$/.test(number) ? await findQuote(steppe.database, Number(number)) : null
    return sendQuoteFile(steppe, quote, id)
  },
)
