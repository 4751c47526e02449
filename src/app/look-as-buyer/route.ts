import { chooseInShop, enterShop } from '@/server/session/shop-session'
import { parseVantage } from '@/ui/frame/vantage-url'
import { redirect } from 'next/navigation'
import type { NextRequest } from 'next/server'

/** From the merchant's frame into the shop, with the eyes looked through, from the same place and in the same currency. */
export async function GET(request: NextRequest): Promise<never> {
  const fields = request.nextUrl.searchParams
  const { as, deliverTo, currency } = parseVantage(fields)
  await enterShop(as)
  await chooseInShop({ deliverTo: deliverTo ?? '', currency: currency ?? '' })
  // Resolved first, so that no detour through ".." or another host leads out of the shop.
  const page = fields.get('page') ?? '/shop'
  const { origin } = request.nextUrl
  const target = URL.canParse(page, origin) ? new URL(page, origin) : null
  redirect(target?.origin === origin && /^\/shop(\/|$)/.test(target.pathname) ? target.pathname : '/shop')
}
