import { searchWords } from '@/server/doors/search-words'
import { withStore } from '@/server/doors/with-store'
import { findVariants } from '@/server/engine/find-variants'
import { asMerchant } from '@/server/session/author'
import { type NextRequest, NextResponse } from 'next/server'

const MOST = 8

/** Items to choose from while a line is typed: their SKUs and names. */
export const GET = withStore(async (request: NextRequest, { prepared }) => {
  await asMerchant()
  const words = searchWords(request.nextUrl.searchParams)
  const found = findVariants(prepared.store, words, MOST)
  return NextResponse.json({ words, found: found.map(({ variant, name }) => ({ sku: variant.sku, name })) })
})
