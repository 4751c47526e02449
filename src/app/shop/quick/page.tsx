import { enterShopPage } from '@/features/shop/entrance/enter'
import { QuickOrderForm } from '@/features/shop/cart/quick-order-form'

export default async function ShopQuickOrder() {
  await enterShopPage()
  return <QuickOrderForm />
}
