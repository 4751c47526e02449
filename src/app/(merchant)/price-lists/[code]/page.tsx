import { addressWord } from '@/server/doors/address-word'
import { loadPriceListSheet } from '@/features/price-lists/load-price-lists'
import { PriceListSheet } from '@/features/price-lists/price-list-sheet'
import { leadToRecord } from '@/sheet/record/moved-record'
import { lookFrom } from '@/server/engine/look-from'
import { parseVantage, serializeVantage } from '@/ui/frame/vantage-url'
import type { Metadata } from 'next'

interface PriceListPageProps {
  readonly params: Promise<{ code: string }>
  readonly searchParams: Promise<Record<string, string>>
}

export async function generateMetadata({ params }: PriceListPageProps): Promise<Metadata> {
  return { title: addressWord((await params).code) }
}

export default async function PriceListPage({ params, searchParams }: PriceListPageProps) {
  const search = await searchParams
  const code = addressWord((await params).code)
  const vantage = parseVantage(new URLSearchParams(search))
  const view = await loadPriceListSheet(await lookFrom(vantage), code)
  if (!view) return leadToRecord('price-list', 'price-lists', code, search)
  return <PriceListSheet key={`${view.code} ${view.asOf} ${serializeVantage(vantage)}`} initial={view} />
}
