import { suggestInShop } from '@/features/shop/load-shop'
import { getPrepared, getSteppe } from '@/server/engine/steppe'
import { shopVisitor } from '@/server/session/shop-session'
import { type NextRequest, NextResponse } from 'next/server'

/** What whoever is in the shop may mean by the beginning of a search. */
export async function GET(request: NextRequest): Promise<NextResponse> {
  const visitor = await shopVisitor(getPrepared(await getSteppe()))
  return NextResponse.json(suggestInShop(visitor, request.nextUrl.searchParams.get('words') ?? ''))
}
