import { merchantRoute } from '@/server/session/permit'
import { exportReport } from '@/features/reports/export-report'
import { loadReport } from '@/features/reports/load-report'
import { currentInstant } from '@/server/clock'
import type { NextRequest } from 'next/server'

/** A report as a CSV file, as it is shown. */
export const GET = merchantRoute('reports:look', async (request: NextRequest, { steppe, prepared }) => {
  const fields = Object.fromEntries(request.nextUrl.searchParams)
  const view = await loadReport({ steppe, prepared, now: currentInstant().getTime() }, fields)
  const { name, content } = exportReport(view)
  return new Response(content, {
    headers: {
      'content-type': 'text/csv; charset=utf-8',
      'content-disposition': `attachment; filename="${name}"`,
      'cache-control': 'private, no-store',
    },
  })
})
