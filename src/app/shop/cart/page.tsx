import { CartPage } from '@/features/shop/cart-page'
import { enterShopPage } from '@/features/shop/enter'
import { loadCart, toCartView } from '@/features/shop/load-cart'

interface Props {
  readonly searchParams: Promise<{ wrong?: string; moved?: string }>
}

export default async function ShopCart({ searchParams }: Props) {
  const visitor = await enterShopPage()
  const { cart } = await loadCart(visitor)
  const { wrong, moved } = await searchParams
  const notice = wrong
    ? `“${wrong}” is not a quantity. Enter a number above zero, such as 12.`
    : moved
      ? 'The cart was changed in another window. Check it once more.'
      : ''
  return <CartPage view={toCartView(visitor, cart)} notice={notice} />
}
