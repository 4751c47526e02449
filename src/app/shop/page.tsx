import { loadFront, shopMoney } from '@/features/shop/load-shop'
import { ShopFront } from '@/features/shop/shop-front'
import { getPrepared, getSteppe } from '@/server/engine/steppe'
import { shopVisitor } from '@/server/session/shop-session'

export default async function ShopPage() {
  const visitor = await shopVisitor(getPrepared(await getSteppe()))
  return <ShopFront branches={loadFront(visitor)} money={shopMoney(visitor)} />
}
