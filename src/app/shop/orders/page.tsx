import { shopPage } from '@/server/session/permit'
import { enterShopPage } from '@/features/shop/entrance/enter'
import { loadOrders } from '@/features/shop/orders/load-orders'
import { OrdersPage } from '@/features/shop/orders/orders-page'

export default shopPage(async ({ searchParams }: { readonly searchParams: Promise<{ before?: string }> }) => {
  const visitor = await enterShopPage()
  const before = Number((await searchParams).before)
  return (
    <OrdersPage {...await loadOrders(visitor, Number.isSafeInteger(before) && before > 0 ? before : null)} />
  )
})
