import { type FoundRecords, findRecords } from '@/features/palette/find-records'
import { searchWords } from '@/server/doors/search-words'
import { withStore } from '@/server/doors/with-store'
import { type NextRequest, NextResponse } from 'next/server'

/** What the command palette finds for some words. */
export const GET = withStore((request: NextRequest, { prepared }) => {
  const words = searchWords(request.nextUrl.searchParams)
  return NextResponse.json({ words, found: findRecords(prepared.store, words) } satisfies FoundRecords)
})
