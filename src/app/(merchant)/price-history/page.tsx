import { merchantPage } from '@/server/session/permit'
import { getSettings } from '@/core/store/store'
import { loadPriceHistory } from '@/features/price-history/load-price-history'
import { PriceHistoryPage } from '@/features/price-history/price-history-page'
import { lookFrom } from '@/server/engine/look-from'
import { parseVantage, serializeVantage } from '@/ui/frame/vantage-url'
import type { Metadata } from 'next'

export const metadata: Metadata = { title: 'Price history' }

export default merchantPage(
  'prices:look',
  async ({ searchParams }: { readonly searchParams: Promise<Record<string, string>> }) => {
    const fields = await searchParams
    const requestContext = await lookFrom(parseVantage(new URLSearchParams(fields)))
    const months = fields['months'] === '3' ? 3 : fields['months'] === '24' ? 24 : 12
    const view = await loadPriceHistory(requestContext, { sku: fields['sku'] ?? '', months })
    const { on } = requestContext.vantage
    return (
      <PriceHistoryPage
        view={view}
        marked={on === null ? null : Date.parse(on)}
        vantage={[...serializeVantage(requestContext.vantage)]}
        timeZone={getSettings(requestContext.prepared.store).timeZone}
      />
    )
  },
)
