import { suggestItems } from '@/features/price-lists/find-item'
import { getPrepared, getSteppe } from '@/server/engine/steppe'
import { type NextRequest, NextResponse } from 'next/server'

/** Categories, products and SKUs to choose from while typing. */
export async function GET(request: NextRequest): Promise<NextResponse> {
  const { store } = getPrepared(await getSteppe())
  return NextResponse.json(suggestItems(store, request.nextUrl.searchParams.get('words') ?? ''))
}
