import { type FoundRecords, findRecords } from '@/features/palette/find-records'
import { getPrepared, getSteppe } from '@/server/engine/steppe'
import { type NextRequest, NextResponse } from 'next/server'

/** What the command palette finds for some words. */
export async function GET(request: NextRequest): Promise<NextResponse> {
  const { store } = getPrepared(await getSteppe())
  const words = request.nextUrl.searchParams.get('words') ?? ''
  return NextResponse.json({ words, found: findRecords(store, words) } satisfies FoundRecords)
}
