import { shopRoute } from '@/server/session/permit'
import { enterShopPage } from '@/features/shop/entrance/enter'
import { loadResolved, parseRows } from '@/features/shop/quick/load-resolved'
import { MOST_ROWS } from '@/features/shop/quick/quick-rows'
import { refuse } from '@/server/doors/with-store'
import { readBody } from '@/server/exchange/read-body'
import { type NextRequest, NextResponse } from 'next/server'

/** What typed SKUs and quantities come to for whoever is in the shop. */
export const POST = shopRoute(async (request: NextRequest) => {
  const visitor = await enterShopPage()
  const body = await readBody(request)
  const rows = body.ok ? parseRows(body.value) : null
  if (!rows)
    return refuse(400, 'malformed', `Send at most ${MOST_ROWS} rows, each with a sku and a quantity as text.`)
  const purpose = request.nextUrl.searchParams.get('for') === 'quote' ? 'quote' : 'order'
  return NextResponse.json(await loadResolved(visitor, rows, purpose))
})
