import { findBuyers } from '@/features/desk/load-desk'
import { searchWords } from '@/server/doors/search-words'
import { withStore } from '@/server/doors/with-store'
import { asMerchant } from '@/server/session/author'
import { type NextRequest, NextResponse } from 'next/server'

/** Accounts to choose from while a name is typed. */
export const GET = withStore(async (request: NextRequest, { prepared }) => {
  await asMerchant()
  const words = searchWords(request.nextUrl.searchParams)
  return NextResponse.json({ words, found: findBuyers(prepared.store, words) })
})
