import { loadShopProduct, shopMoney } from '@/features/shop/load-shop'
import { ProductPage } from '@/features/shop/product-page'
import { getPrepared, getSteppe } from '@/server/engine/steppe'
import { shopVisitor } from '@/server/session/shop-session'
import { notFound } from 'next/navigation'

interface ShopProductProps {
  readonly params: Promise<{ code: string }>
  readonly searchParams: Promise<{ sku?: string }>
}

export default async function ShopProduct({ params, searchParams }: ShopProductProps) {
  const visitor = await shopVisitor(getPrepared(await getSteppe()))
  const product = loadShopProduct(visitor, decodeURIComponent((await params).code))
  if (!product) notFound()
  return (
    <ProductPage product={product} money={shopMoney(visitor)} chosen={(await searchParams).sku ?? null} />
  )
}
