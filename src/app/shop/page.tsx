import { shopPage } from '@/server/session/permit'
import { getSettings } from '@/core/store/store'
import { enterShopPage } from '@/features/shop/entrance/enter'
import { loadFront, shopMoney } from '@/features/shop/catalogue/load-shop'
import { ShopFront } from '@/features/shop/catalogue/shop-front'

export default shopPage(async () => {
  const visitor = await enterShopPage()
  const { shopHeadline, name } = getSettings(visitor.prepared.store)
  return (
    <ShopFront headline={shopHeadline || name} branches={loadFront(visitor)} money={shopMoney(visitor)} />
  )
})
