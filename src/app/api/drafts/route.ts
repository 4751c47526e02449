import { loadDrafts } from '@/features/drafts/load-drafts'
import { withStore } from '@/server/doors/with-store'
import { lookFrom } from '@/server/engine/look-from'
import { parseVantage } from '@/ui/frame/vantage-url'
import { type NextRequest, NextResponse } from 'next/server'

/** The open drafts, and the one looked through in figures. */
export const GET = withStore(async (request: NextRequest) =>
  NextResponse.json(await loadDrafts(await lookFrom(parseVantage(request.nextUrl.searchParams)))),
)
