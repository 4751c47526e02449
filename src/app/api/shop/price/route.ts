import { shopRoute } from '@/server/session/permit'
import { parseDecimal } from '@/core/decimal/decimal'
import { quoteFor } from '@/features/shop/product/load-shop-product'
import { searchWords } from '@/server/doors/search-words'
import { shopVisitor } from '@/server/session/shop-session'
import { isQuantity } from '@/ui/frame/vantage-url'
import { type NextRequest, NextResponse } from 'next/server'

const MOST_EXTRAS = 50

/** What some pieces of a SKU cost whoever is in the shop. */
export const GET = shopRoute(async (request: NextRequest) => {
  const fields = request.nextUrl.searchParams
  const text = fields.get('quantity') ?? '1'
  const quantity = isQuantity(text) ? parseDecimal(text) : null
  if (quantity === null)
    return NextResponse.json(
      { error: `quantity “${text.slice(0, 40)}” is not a number above zero` },
      { status: 400 },
    )
  const sku = searchWords(fields, 'sku')
  const quote = quoteFor(await shopVisitor(), sku, quantity, fields.getAll('extra').slice(0, MOST_EXTRAS))
  return quote
    ? NextResponse.json(quote)
    : NextResponse.json({ error: `there is no “${sku}” here` }, { status: 404 })
})
