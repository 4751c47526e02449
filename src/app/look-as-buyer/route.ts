import { isBuyerCode } from '@/core/buyers/buyer-code'
import { enterShop } from '@/server/session/shop-session'
import { redirect } from 'next/navigation'
import type { NextRequest } from 'next/server'

/** From the merchant's frame into the shop, with the eyes looked through. */
export async function GET(request: NextRequest): Promise<never> {
  const fields = request.nextUrl.searchParams
  const as = fields.get('as') ?? 'guest'
  const to = fields.get('to') ?? '/shop'
  await enterShop(isBuyerCode(as) ? as : 'guest')
  // Resolved first, so that no detour through ".." or another host leads out of the shop.
  const { origin } = request.nextUrl
  const target = URL.canParse(to, origin) ? new URL(to, origin) : null
  redirect(target?.origin === origin && /^\/shop(\/|$)/.test(target.pathname) ? target.pathname : '/shop')
}
