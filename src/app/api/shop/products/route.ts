import { shopRoute } from '@/server/session/permit'
import { shopFeed, shopMoney } from '@/features/shop/catalogue/load-shop'
import { readPage } from '@/features/shop/frame/pages'
import { shopVisitor } from '@/server/session/shop-session'
import { type NextRequest, NextResponse } from 'next/server'

/** The feed of everything whoever asks may see, at their own prices, page by page. */
export const GET = shopRoute(async (request: NextRequest) => {
  const visitor = await shopVisitor()
  const page = readPage(request.nextUrl.searchParams.get('page'))
  return NextResponse.json({ ...shopMoney(visitor), ...(await shopFeed(visitor, page)) })
})
