import { merchantRoute } from '@/server/session/permit'
import { findOrders, type FoundRecords, findRecords } from '@/features/palette/find-records'
import { searchWords } from '@/server/doors/search-words'
import { type NextRequest, NextResponse } from 'next/server'

/** What the command palette finds for some words. */
export const GET = merchantRoute('prices:look', async (request: NextRequest, { steppe, prepared, doer }) => {
  const words = searchWords(request.nextUrl.searchParams)
  const orders = doer.permissions.has('orders:look') ? await findOrders(steppe.database, words) : []
  const found = [...orders, ...findRecords(prepared.store, words)]
  return NextResponse.json({ words, found } satisfies FoundRecords)
})
