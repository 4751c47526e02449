import { merchantRoute } from '@/server/session/permit'
import { findOrders, type FoundRecords, findRecords } from '@/features/palette/find-records'
import { searchWords } from '@/server/doors/search-words'
import { type NextRequest, NextResponse } from 'next/server'

/** What the command palette finds for some words. */
export const GET = merchantRoute('prices:look', async (request: NextRequest, { steppe, prepared }) => {
  const words = searchWords(request.nextUrl.searchParams)
  const found = [...(await findOrders(steppe.database, words)), ...findRecords(prepared.store, words)]
  return NextResponse.json({ words, found } satisfies FoundRecords)
})
