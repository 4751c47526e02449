import { shopPage } from '@/server/session/permit'
import { CheckoutForm } from '@/features/shop/checkout/checkout-form'
import { enterShopPage } from '@/features/shop/entrance/enter'
import { loadCheckout } from '@/features/shop/checkout/load-checkout'
import { redirect } from 'next/navigation'

export default shopPage(async () => {
  const view = await loadCheckout(await enterShopPage())
  if (view.cart.lines.length === 0 || view.cart.problems.length > 0) redirect('/shop/cart')
  return (
    <>
      <h1 className="pb-4 text-3xl leading-9 font-bold tracking-tight">Checkout</h1>
      <CheckoutForm view={view} />
    </>
  )
})
