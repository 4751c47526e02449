import { CartPage } from '@/features/shop/cart/cart-page'
import { enterShopPage } from '@/features/shop/entrance/enter'
import { loadCart, toCartView } from '@/features/shop/cart/load-cart'

interface Props {
  readonly searchParams: Promise<{ wrong?: string; moved?: string; code?: string }>
}

export default async function ShopCart({ searchParams }: Props) {
  const visitor = await enterShopPage()
  const loaded = await loadCart(visitor)
  const { wrong, moved, code } = await searchParams
  const notice = wrong
    ? `“${wrong}” is not a quantity. Enter a number above zero, such as 12.`
    : moved
      ? 'The cart was changed in another window. Check it once more.'
      : code === 'wrong'
        ? 'This code is not valid here and now. Check how it is written.'
        : code === 'waits'
          ? 'Too many codes were not valid. Try again in an hour.'
          : ''
  return <CartPage view={toCartView(visitor, loaded)} notice={notice} />
}
