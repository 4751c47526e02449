import { shopPage } from '@/server/session/permit'
import { enterShopPage } from '@/features/shop/entrance/enter'
import { loadOrder } from '@/features/shop/orders/load-orders'
import { OrderPage } from '@/features/shop/orders/order-page'
import { notFound } from 'next/navigation'

interface ShopOrderProps {
  readonly params: Promise<{ number: string }>
  readonly searchParams: Promise<{ placed?: string }>
}

export default shopPage(async ({ params, searchParams }: ShopOrderProps) => {
  const visitor = await enterShopPage()
  const { number } = await params
  const order = /^\d{1,9}$/.test(number) ? await loadOrder(visitor, Number(number)) : null
  if (!order) notFound()
  return <OrderPage order={order} isNew={(await searchParams).placed === '1'} />
})
