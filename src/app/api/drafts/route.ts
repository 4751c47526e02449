import { merchantRoute } from '@/server/session/permit'
import { loadDrafts } from '@/features/drafts/load-drafts'
import { lookFrom } from '@/server/engine/look-from'
import { parseVantage } from '@/ui/frame/vantage-url'
import { type NextRequest, NextResponse } from 'next/server'

/** The open drafts, and the one looked through in figures. */
export const GET = merchantRoute('prices:look', async (request: NextRequest) =>
  NextResponse.json(await loadDrafts(await lookFrom(parseVantage(request.nextUrl.searchParams)))),
)
