import { enterShopPage } from '@/features/shop/entrance/enter'
import { ownerOf } from '@/server/session/shop-session'
import { OrdersPage } from '@/features/shop/checkout/orders-page'
import { getSteppe } from '@/server/engine/steppe'
import { ordersOf } from '@/server/shop/order-store'

export default async function ShopOrders({
  searchParams,
}: {
  readonly searchParams: Promise<{ placed?: string }>
}) {
  const orders = await ordersOf(await getSteppe(), ownerOf(await enterShopPage()))
  const placed = Number((await searchParams).placed)
  return (
    <OrdersPage orders={orders} placed={orders.some(({ number }) => number === placed) ? placed : null} />
  )
}
