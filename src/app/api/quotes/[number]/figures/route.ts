import { merchantRoute } from '@/server/session/permit'
import { loadFigures } from '@/features/quotes/load-quote'
import { currentInstant } from '@/server/clock'
import { refuse } from '@/server/doors/with-store'
import { readBody } from '@/server/exchange/read-body'
import { findQuote } from '@/server/quotes/quote-rows'
import { parseWorking } from '@/server/quotes/quote-shape'
import { type NextRequest, NextResponse } from 'next/server'

interface Context {
  readonly params: Promise<{ number: string }>
}

/** What an offer comes to while it is written. */
export const POST = merchantRoute(
  'quotes:work',
  async (request: NextRequest, { steppe, prepared }, { params }: Context) => {
    const { number } = await params
    const body = await readBody(request)
    const working = body.ok ? parseWorking(body.value) : null
    if (!working) return refuse(400, 'malformed', 'This is no offer.')
    const quote = /^\d{1,9}$/.test(number) ? await findQuote(steppe.database, Number(number)) : null
    const figures = quote && (await loadFigures(steppe, prepared, quote, working, currentInstant().getTime()))
    return figures
      ? NextResponse.json(figures)
      : refuse(404, 'no-such-quote', 'There is no such quote, or its buyer is gone.')
  },
)
