import { merchantPage } from '@/server/session/permit'
import { SectionTabs } from '@/features/records/section-tabs'
import { loadAccess } from '@/features/access/load-access'
import { AccessPage } from '@/features/access/access-page'
import { lookFrom } from '@/server/engine/look-from'
import { parseVantage } from '@/ui/frame/vantage-url'
import type { Metadata } from 'next'

export const metadata: Metadata = { title: 'Access' }

export default merchantPage(
  'prices:look',
  async ({ searchParams }: { readonly searchParams: Promise<Record<string, string>> }) => {
    const fields = await searchParams
    const requestContext = await lookFrom(parseVantage(new URLSearchParams(fields)))
    const view = await loadAccess(requestContext)
    const isWhole = fields['branches'] === 'all'
    return <AccessPage view={view} isWhole={isWhole} tabs={<SectionTabs place="Access" path="access" />} />
  },
)
