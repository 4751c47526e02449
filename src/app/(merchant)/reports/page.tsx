import { merchantPage } from '@/server/session/permit'
import { loadReport } from '@/features/reports/load-report'
import { ReportPage } from '@/features/reports/report-page'
import { lookFrom } from '@/server/engine/look-from'
import { parseVantage } from '@/ui/frame/vantage-url'
import type { Metadata } from 'next'

export const metadata: Metadata = { title: 'Reports' }

export default merchantPage(
  'reports:look',
  async ({ searchParams }: { readonly searchParams: Promise<Record<string, string>> }) => {
    const fields = await searchParams
    const requestContext = await lookFrom(parseVantage(new URLSearchParams(fields)))
    return <ReportPage view={await loadReport(requestContext, fields)} />
  },
)
