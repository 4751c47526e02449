import { merchantPage } from '@/server/session/permit'
import { SectionTabs } from '@/features/records/section-tabs'
import { loadAssortments } from '@/features/access/load-assortments'
import { AssortmentsPage } from '@/features/access/assortments-page'
import { lookFrom } from '@/server/engine/look-from'
import { parseVantage } from '@/ui/frame/vantage-url'
import type { Metadata } from 'next'

export const metadata: Metadata = { title: 'Assortments' }

export default merchantPage(
  'prices:look',
  async ({ searchParams }: { readonly searchParams: Promise<Record<string, string>> }) => {
    const fields = await searchParams
    const requestContext = await lookFrom(parseVantage(new URLSearchParams(fields)))
    const view = await loadAssortments(requestContext, fields['of'] ?? '', fields['code'] ?? '')
    return <AssortmentsPage view={view} tabs={<SectionTabs place="Access" path="assortments" />} />
  },
)
