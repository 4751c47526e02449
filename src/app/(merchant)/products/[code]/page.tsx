import { addressWord } from '@/server/doors/address-word'
import { ListPricesSection } from '@/features/products/list-prices-section'
import { loadListPrices } from '@/features/products/load-list-prices'
import { loadProductSheet } from '@/features/products/load-products'
import { ProductSheet } from '@/features/products/product-sheet'
import { leadToRecord } from '@/sheet/record/moved-record'
import { lookFrom } from '@/server/engine/look-from'
import { parseVantage, serializeVantage } from '@/ui/frame/vantage-url'
import type { Metadata } from 'next'

interface ProductPageProps {
  readonly params: Promise<{ code: string }>
  readonly searchParams: Promise<Record<string, string>>
}

export async function generateMetadata({ params }: ProductPageProps): Promise<Metadata> {
  return { title: addressWord((await params).code) }
}

export default async function ProductPage({ params, searchParams }: ProductPageProps) {
  const search = await searchParams
  const code = addressWord((await params).code)
  const vantage = parseVantage(new URLSearchParams(search))
  const outlook = await lookFrom(vantage)
  const view = await loadProductSheet(outlook, code)
  if (!view) return leadToRecord('product', 'products', code, search)
  return (
    <ProductSheet
      key={`${view.code} ${view.asOf} ${serializeVantage(vantage)}`}
      initial={view}
      listPrices={<ListPricesSection view={await loadListPrices(outlook, view.id)} live={view.live} />}
    />
  )
}
