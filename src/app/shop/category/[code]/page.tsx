import { CategoryPage } from '@/features/shop/category-page'
import { loadListing, shopMoney } from '@/features/shop/load-shop'
import { enterShopPage } from '@/features/shop/enter'
import { notFound } from 'next/navigation'

export default async function ShopCategory({ params }: { readonly params: Promise<{ code: string }> }) {
  const visitor = await enterShopPage()
  const listing = loadListing(visitor, (await params).code)
  if (!listing) notFound()
  return <CategoryPage listing={listing} money={shopMoney(visitor)} />
}
