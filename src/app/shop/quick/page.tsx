import { enterShopPage } from '@/features/shop/enter'
import { QuickOrderForm } from '@/features/shop/quick-order-form'

export default async function ShopQuickOrder() {
  await enterShopPage()
  return <QuickOrderForm />
}
