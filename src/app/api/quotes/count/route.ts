import { merchantRoute } from '@/server/session/permit'
import { WAITS_FOR_MERCHANT } from '@/core/quote/quote-event'
import { countQuotes } from '@/server/quotes/quote-rows'
import { type NextRequest, NextResponse } from 'next/server'

/** How many quotes wait for the merchant. */
export const GET = merchantRoute('quotes:work', async (_request: NextRequest, { steppe }) => {
  const counts = await countQuotes(steppe.database)
  const count = WAITS_FOR_MERCHANT.reduce((sum, state) => sum + (counts.get(state) ?? 0), 0)
  return NextResponse.json({ count })
})
