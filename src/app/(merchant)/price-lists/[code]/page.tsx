import { addressWord } from '@/server/doors/address-word'
import { loadPriceListSheet } from '@/features/price-lists/load-price-lists'
import { PriceListSheet } from '@/features/price-lists/price-list-sheet'
import { lookFrom } from '@/server/engine/look-from'
import { parseVantage, serializeVantage } from '@/ui/frame/vantage-url'
import type { Metadata } from 'next'
import { notFound } from 'next/navigation'

interface PriceListPageProps {
  readonly params: Promise<{ code: string }>
  readonly searchParams: Promise<Record<string, string>>
}

export async function generateMetadata({ params }: PriceListPageProps): Promise<Metadata> {
  return { title: addressWord((await params).code) }
}

export default async function PriceListPage({ params, searchParams }: PriceListPageProps) {
  const vantage = parseVantage(new URLSearchParams(await searchParams))
  const view = await loadPriceListSheet(await lookFrom(vantage), addressWord((await params).code))
  if (!view) notFound()
  return <PriceListSheet key={`${view.code} ${view.asOf} ${serializeVantage(vantage)}`} initial={view} />
}
