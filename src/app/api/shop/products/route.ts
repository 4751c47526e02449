import { shopFeed, shopMoney } from '@/features/shop/load-shop'
import { getPrepared, getSteppe } from '@/server/engine/steppe'
import { shopVisitor } from '@/server/session/shop-session'
import { NextResponse } from 'next/server'

/** The feed of everything whoever asks may see, at their own prices. */
export async function GET(): Promise<NextResponse> {
  const visitor = await shopVisitor(getPrepared(await getSteppe()))
  return NextResponse.json({ ...shopMoney(visitor), products: shopFeed(visitor) })
}
