import { merchantRoute } from '@/server/session/permit'
import { searchWords } from '@/server/doors/search-words'
import { findVariants } from '@/server/engine/find-variants'
import { type NextRequest, NextResponse } from 'next/server'

const MOST = 8

/** Items to choose from while a line is typed: their SKUs and names. */
export const GET = merchantRoute('prices:look', async (request: NextRequest, { prepared }) => {
  const words = searchWords(request.nextUrl.searchParams)
  const found = findVariants(prepared.store, words, MOST)
  return NextResponse.json({ words, found: found.map(({ variant, name }) => ({ sku: variant.sku, name })) })
})
