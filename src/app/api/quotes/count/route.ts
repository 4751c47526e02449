import { WAITS_FOR_MERCHANT } from '@/core/quote/quote-event'
import { withStore } from '@/server/doors/with-store'
import { countQuotes } from '@/server/quotes/quote-rows'
import { asMerchant } from '@/server/session/author'
import { type NextRequest, NextResponse } from 'next/server'

/** How many quotes wait for the merchant. */
export const GET = withStore(async (_request: NextRequest, { steppe }) => {
  await asMerchant()
  const counts = await countQuotes(steppe.database)
  const count = WAITS_FOR_MERCHANT.reduce((sum, state) => sum + (counts.get(state) ?? 0), 0)
  return NextResponse.json({ count })
})
