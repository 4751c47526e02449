import { loadTrace } from '@/features/trace/load-trace'
import { lookFrom } from '@/server/engine/look-from'
import { parseVantage } from '@/ui/frame/vantage-url'
import { type NextRequest, NextResponse } from 'next/server'

/** How one price came about: the variant's SKU and the vantage in the address. */
export async function GET(request: NextRequest): Promise<NextResponse> {
  const fields = request.nextUrl.searchParams
  const trace = loadTrace(await lookFrom(parseVantage(fields)), fields.get('sku') ?? '')
  return trace.ok
    ? NextResponse.json(trace.value)
    : NextResponse.json({ error: trace.problem }, { status: 404 })
}
