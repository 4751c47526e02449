import { merchantPage } from '@/server/session/permit'
import { SectionTabs } from '@/features/records/section-tabs'
import { loadLimits } from '@/features/limits/load-limits'
import { LimitsPage } from '@/features/limits/limits-page'
import { lookFrom } from '@/server/engine/look-from'
import { parseVantage } from '@/ui/frame/vantage-url'
import type { Metadata } from 'next'

export const metadata: Metadata = { title: 'Limits in force' }

export default merchantPage(
  'prices:look',
  async ({ searchParams }: { readonly searchParams: Promise<Record<string, string>> }) => {
    const fields = await searchParams
    const requestContext = await lookFrom(parseVantage(new URLSearchParams(fields)))
    const view = await loadLimits(requestContext, fields['find'] ?? '')
    return <LimitsPage view={view} tabs={<SectionTabs place="Limits" path="limits-in-force" />} />
  },
)
