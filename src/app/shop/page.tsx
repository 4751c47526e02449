import { loadFront, shopMoney } from '@/features/shop/load-shop'
import { ShopFront } from '@/features/shop/shop-front'
import { getPrepared, getSteppe } from '@/server/engine/steppe'
import { shopVisitor } from '@/server/session/shop-session'

export default async function ShopPage() {
  const prepared = getPrepared(await getSteppe())
  const { buyer } = await shopVisitor(prepared)
  return <ShopFront branches={loadFront(prepared, buyer)} money={shopMoney(prepared.store)} />
}
