import { addressWord } from '@/server/doors/address-word'
import { AwayPage } from '@/features/shop/away-page'
import { enterShopPage } from '@/features/shop/enter'
import { findAway, loadShopProduct, shopMoney } from '@/features/shop/load-shop'
import { ProductPage } from '@/features/shop/product-page'
import { notFound, redirect } from 'next/navigation'

interface ShopProductProps {
  readonly params: Promise<{ code: string }>
  readonly searchParams: Promise<{ sku?: string }>
}

export default async function ShopProduct({ params, searchParams }: ShopProductProps) {
  const visitor = await enterShopPage()
  const code = addressWord((await params).code)
  const product = loadShopProduct(visitor, code)
  if (product)
    return (
      <ProductPage product={product} money={shopMoney(visitor)} chosen={(await searchParams).sku ?? null} />
    )
  const away = findAway(visitor, code)
  if (!away) notFound()
  if (away.landing !== 'message') redirect(`/shop/${away.landing}`)
  return <AwayPage message={away.message} />
}
