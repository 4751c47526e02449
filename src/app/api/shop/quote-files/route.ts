import { shopRoute } from '@/server/session/permit'
import { LARGEST_FILE } from '@/core/quote/quote'
import { enterShopPage } from '@/features/shop/entrance/enter'
import { NO_ROOM, withRoomOr } from '@/features/shop/frame/with-room'
import { currentInstant } from '@/server/clock'
import { refuse } from '@/server/doors/with-store'
import { readBytes } from '@/server/exchange/read-body'
import { keepQuoteFile } from '@/server/quotes/quote-files'
import { cartOfVisitor, ownerOf } from '@/server/session/shop-session'
import { type NextRequest, NextResponse } from 'next/server'

/** Takes a file that goes with a request for a quote; the file is the body, its name in the address. */
export const POST = shopRoute(async (request: NextRequest, { steppe }) => {
  const visitor = await enterShopPage()
  const bytes = await readBytes(request, LARGEST_FILE)
  if (!bytes) return refuse(413, 'too-large', 'The file is larger than 5 MB. Send a smaller one.')
  const owner = ownerOf(visitor)
  const name = request.nextUrl.searchParams.get('name') ?? ''
  const kept = await withRoomOr(
    async () => {
      // The window of a guest is known from here on.
      const holder = owner.account === null ? { account: null, visitor: await cartOfVisitor() } : owner
      return keepQuoteFile(steppe, holder, { name, bytes }, currentInstant())
    },
    () => ({ ok: false, problem: NO_ROOM }) as const,
  )
  return kept.ok ? NextResponse.json(kept.file, { status: 201 }) : refuse(422, 'not-taken', kept.problem)
})
