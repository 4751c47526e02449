import { shopFeed, shopMoney } from '@/features/shop/load-shop'
import { withStore } from '@/server/doors/with-store'
import { shopVisitor } from '@/server/session/shop-session'
import { NextResponse } from 'next/server'

/** The feed of everything whoever asks may see, at their own prices. */
export const GET = withStore(async (_request, { prepared }) => {
  const visitor = await shopVisitor(prepared)
  return NextResponse.json({ ...shopMoney(visitor), products: shopFeed(visitor) })
})
