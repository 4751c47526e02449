import { merchantRoute } from '@/server/session/permit'
import { loadTrace } from '@/features/trace/load-trace'
import { searchWords } from '@/server/doors/search-words'
import { lookFrom } from '@/server/engine/look-from'
import { parseVantage } from '@/ui/frame/vantage-url'
import { type NextRequest, NextResponse } from 'next/server'

/** How one price came about: the variant's SKU and the vantage in the address. */
export const GET = merchantRoute('prices:look', async (request: NextRequest) => {
  const fields = request.nextUrl.searchParams
  const trace = await loadTrace(await lookFrom(parseVantage(fields)), searchWords(fields, 'sku'))
  return trace.ok
    ? NextResponse.json(trace.value)
    : NextResponse.json({ error: trace.problem }, { status: 404 })
})
