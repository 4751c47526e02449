import { addressWord } from '@/server/doors/address-word'
import { loadProductSheet } from '@/features/products/load-products'
import { ProductSheet } from '@/features/products/product-sheet'
import { lookFrom } from '@/server/engine/look-from'
import { parseVantage, serializeVantage } from '@/ui/frame/vantage-url'
import type { Metadata } from 'next'
import { notFound } from 'next/navigation'

interface ProductPageProps {
  readonly params: Promise<{ code: string }>
  readonly searchParams: Promise<Record<string, string>>
}

export async function generateMetadata({ params }: ProductPageProps): Promise<Metadata> {
  return { title: addressWord((await params).code) }
}

export default async function ProductPage({ params, searchParams }: ProductPageProps) {
  const vantage = parseVantage(new URLSearchParams(await searchParams))
  const view = await loadProductSheet(await lookFrom(vantage), addressWord((await params).code))
  if (!view) notFound()
  return <ProductSheet key={`${view.code} ${view.asOf} ${serializeVantage(vantage)}`} initial={view} />
}
