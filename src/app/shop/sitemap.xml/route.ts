import { currentInstant } from '@/server/clock'
import { guestPages } from '@/server/exchange/guest-offers'
import { sitemap } from '@/server/exchange/sitemap'
import { shopRoute } from '@/server/session/permit'
import type { NextRequest } from 'next/server'

/** The pages of products guests may see, for search engines. */
export const GET = shopRoute(async (request: NextRequest, { prepared }) => {
  const pages = await guestPages({ prepared, at: currentInstant().getTime() })
  return new Response(sitemap(pages, Number(request.nextUrl.searchParams.get('part') ?? 0)), {
    headers: { 'content-type': 'application/xml' },
  })
})
