import { getSettings } from '@/core/store/store'
import { loadProducts } from '@/features/products/load-products'
import { ProductList } from '@/features/products/product-list'
import { lookFrom } from '@/server/engine/look-from'
import { parseVantage } from '@/ui/frame/vantage-url'
import type { Metadata } from 'next'

export const metadata: Metadata = { title: 'Products' }

interface ProductsPageProps {
  readonly searchParams: Promise<Record<string, string>>
}

export default async function ProductsPage({ searchParams }: ProductsPageProps) {
  const outlook = await lookFrom(parseVantage(new URLSearchParams(await searchParams)))
  const { currency } = getSettings(outlook.prepared.store)
  return <ProductList rows={loadProducts(outlook)} buyerName={outlook.buyerName} currency={currency} />
}
