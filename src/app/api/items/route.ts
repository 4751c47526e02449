import { merchantRoute } from '@/server/session/permit'
import { suggestItems } from '@/sheet/price-lines/find-item'
import { searchWords } from '@/server/doors/search-words'
import { type NextRequest, NextResponse } from 'next/server'

/** Categories, products and SKUs to choose from while typing. */
export const GET = merchantRoute('prices:look', (request: NextRequest, { prepared }) =>
  NextResponse.json(suggestItems(prepared.store, searchWords(request.nextUrl.searchParams))),
)
