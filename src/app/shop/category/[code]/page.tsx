import { CategoryPage } from '@/features/shop/category-page'
import { loadListing, shopMoney } from '@/features/shop/load-shop'
import { readPage } from '@/features/shop/pages'
import { enterShopPage } from '@/features/shop/enter'
import { notFound } from 'next/navigation'

export default async function ShopCategory({
  params,
  searchParams,
}: {
  readonly params: Promise<{ code: string }>
  readonly searchParams: Promise<{ page?: string }>
}) {
  const visitor = await enterShopPage()
  const { code } = await params
  const listing = loadListing(visitor, code, readPage((await searchParams).page))
  if (!listing) notFound()
  return <CategoryPage code={code} listing={listing} money={shopMoney(visitor)} />
}
