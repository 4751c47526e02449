import { shopRoute } from '@/server/session/permit'
import { suggestInShop } from '@/features/shop/catalogue/load-shop'
import { searchWords } from '@/server/doors/search-words'
import { shopVisitor } from '@/server/session/shop-session'
import { type NextRequest, NextResponse } from 'next/server'

/** What whoever is in the shop may mean by the beginning of a search. */
export const GET = shopRoute(async (request: NextRequest) =>
  NextResponse.json(suggestInShop(await shopVisitor(), searchWords(request.nextUrl.searchParams))),
)
