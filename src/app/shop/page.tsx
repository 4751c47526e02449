import { loadFront, shopMoney } from '@/features/shop/load-shop'
import { ShopFront } from '@/features/shop/shop-front'
import { enterShopPage } from '@/features/shop/enter'

export default async function ShopPage() {
  const visitor = await enterShopPage()
  return <ShopFront branches={loadFront(visitor)} money={shopMoney(visitor)} />
}
