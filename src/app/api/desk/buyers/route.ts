import { merchantRoute } from '@/server/session/permit'
import { findBuyers } from '@/features/desk/load-desk'
import { searchWords } from '@/server/doors/search-words'
import { type NextRequest, NextResponse } from 'next/server'

/** Accounts to choose from while a name is typed. */
export const GET = merchantRoute('desk:work', async (request: NextRequest, { prepared }) => {
  const words = searchWords(request.nextUrl.searchParams)
  return NextResponse.json({ words, found: findBuyers(prepared.store, words) })
})
