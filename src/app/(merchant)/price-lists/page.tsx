import { merchantPage } from '@/server/session/permit'
import { loadPriceLists } from '@/features/price-lists/load-price-lists'
import { PriceListTable } from '@/features/price-lists/price-list-table'
import { lookFrom } from '@/server/engine/look-from'
import { parseVantage } from '@/ui/frame/vantage-url'
import type { Metadata } from 'next'

export const metadata: Metadata = { title: 'Price lists' }

interface PriceListsPageProps {
  readonly searchParams: Promise<Record<string, string>>
}

export default merchantPage('prices:look', async ({ searchParams }: PriceListsPageProps) => {
  const requestContext = await lookFrom(parseVantage(new URLSearchParams(await searchParams)))
  return <PriceListTable rows={await loadPriceLists(requestContext)} buyerName={requestContext.buyerName} />
})
