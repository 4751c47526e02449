import { merchantPage } from '@/server/session/permit'
import { getSettings } from '@/core/store/store'
import { loadProducts } from '@/features/products/load-products'
import { ProductList } from '@/features/products/product-list'
import { SectionTabs } from '@/features/records/section-tabs'
import { searchWords } from '@/server/doors/search-words'
import { lookFrom } from '@/server/engine/look-from'
import { parseVantage } from '@/ui/frame/vantage-url'
import type { Metadata } from 'next'

export const metadata: Metadata = { title: 'Products' }

interface ProductsPageProps {
  readonly searchParams: Promise<Record<string, string>>
}

export default merchantPage('prices:look', async ({ searchParams }: ProductsPageProps) => {
  const fields = new URLSearchParams(await searchParams)
  const requestContext = await lookFrom(parseVantage(fields))
  const { currency } = getSettings(requestContext.prepared.store)
  const view = await loadProducts(requestContext, searchWords(fields, 'find'))
  return (
    <ProductList
      view={view}
      buyerName={requestContext.buyerName}
      currency={currency}
      tabs={<SectionTabs place="Products" path="products" />}
    />
  )
})
