import { shopPage } from '@/server/session/permit'
import { enterShopPage } from '@/features/shop/entrance/enter'
import { loadResolved } from '@/features/shop/quick/load-resolved'
import { QuickOrder } from '@/features/shop/quick/quick-order'

export default shopPage(async () => {
  return <QuickOrder first={await loadResolved(await enterShopPage(), [])} />
})
