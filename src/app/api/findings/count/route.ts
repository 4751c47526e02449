import { merchantRoute } from '@/server/session/permit'
import { countFindings } from '@/features/findings/count-findings'
import { lookFrom } from '@/server/engine/look-from'
import { parseVantage } from '@/ui/frame/vantage-url'
import { type NextRequest, NextResponse } from 'next/server'

/** How many findings there are, live or in the draft that is looked through. */
export const GET = merchantRoute('prices:look', async (request: NextRequest) =>
  NextResponse.json({
    count: await countFindings(await lookFrom(parseVantage(request.nextUrl.searchParams))),
  }),
)
