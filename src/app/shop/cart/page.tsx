import { shopPage } from '@/server/session/permit'
import { type CartNotice, noticeText } from '@/features/shop/cart/cart-notice'
import { CartPage } from '@/features/shop/cart/cart-page'
import { enterShopPage } from '@/features/shop/entrance/enter'
import { loadCart, toCartView } from '@/features/shop/cart/load-cart'

export default shopPage(async ({ searchParams }: { readonly searchParams: Promise<CartNotice> }) => {
  const visitor = await enterShopPage()
  const loaded = await loadCart(visitor)
  return <CartPage view={toCartView(visitor, loaded)} notice={noticeText(await searchParams)} />
})
