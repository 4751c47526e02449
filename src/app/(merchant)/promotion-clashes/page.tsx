import { merchantPage } from '@/server/session/permit'
import { ClashesPage } from '@/features/promotions/clashes-page'
import { loadClashes } from '@/features/promotions/load-clashes'
import { SectionTabs } from '@/features/records/section-tabs'
import { lookFrom } from '@/server/engine/look-from'
import { parseVantage } from '@/ui/frame/vantage-url'
import type { Metadata } from 'next'

export const metadata: Metadata = { title: 'Clashes of promotions' }

export default merchantPage(
  'prices:look',
  async ({ searchParams }: { readonly searchParams: Promise<Record<string, string>> }) => {
    const requestContext = await lookFrom(parseVantage(new URLSearchParams(await searchParams)))
    return (
      <ClashesPage
        clashes={await loadClashes(requestContext)}
        tabs={<SectionTabs place="Promotions" path="promotion-clashes" />}
      />
    )
  },
)
