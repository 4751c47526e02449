import { parseDecimal } from '@/core/decimal/decimal'
import { quoteFor } from '@/features/shop/load-shop'
import { getPrepared, getSteppe } from '@/server/engine/steppe'
import { shopVisitor } from '@/server/session/shop-session'
import { isQuantity } from '@/ui/frame/vantage-url'
import { type NextRequest, NextResponse } from 'next/server'

/** What some pieces of a SKU cost whoever is in the shop. */
export async function GET(request: NextRequest): Promise<NextResponse> {
  const fields = request.nextUrl.searchParams
  const text = fields.get('quantity') ?? '1'
  const quantity = isQuantity(text) ? parseDecimal(text) : null
  if (quantity === null)
    return NextResponse.json({ error: `quantity “${text}” is not a number above zero` }, { status: 400 })
  const visitor = await shopVisitor(getPrepared(await getSteppe()))
  const quote = quoteFor(visitor, fields.get('sku') ?? '', quantity, fields.getAll('extra'))
  return quote
    ? NextResponse.json(quote)
    : NextResponse.json({ error: `there is no “${fields.get('sku')}” here` }, { status: 404 })
}
