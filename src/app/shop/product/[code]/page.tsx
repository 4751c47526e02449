import { shopPage } from '@/server/session/permit'
import { productData } from '@/server/exchange/guest-offers'
import { addressWord } from '@/server/doors/address-word'
import { AwayPage } from '@/features/shop/entrance/away-page'
import { enterShopPage } from '@/features/shop/entrance/enter'
import { findAway, loadShopProduct, stockOnPage } from '@/features/shop/product/load-shop-product'
import { shopMoney } from '@/features/shop/catalogue/load-shop'
import { nowKnownAs } from '@/sheet/record/moved-record'
import { recordHref } from '@/ui/frame/record-href'
import { ProductPage } from '@/features/shop/product/product-page'
import { notFound, permanentRedirect } from 'next/navigation'

interface ShopProductProps {
  readonly params: Promise<{ code: string }>
  readonly searchParams: Promise<{ sku?: string }>
}

export default shopPage(async ({ params, searchParams }: ShopProductProps) => {
  const code = addressWord((await params).code)
  const visitor = await enterShopPage(recordHref('shop/product', code))
  const search = await searchParams
  const product = loadShopProduct(visitor, code, await stockOnPage(visitor, code))
  if (product) {
    const { prepared, buyerContext } = visitor
    // What search engines read is what guests see: nobody's own prices are told to machines.
    const told = visitor.as === 'guest' ? productData({ prepared, at: buyerContext.at }, product.code) : null
    return (
      <>
        {told && (
          <script
            type="application/ld+json"
            dangerouslySetInnerHTML={{ __html: JSON.stringify(told).replace(/</g, '\\u003c') }}
          />
        )}
        <ProductPage product={product} money={shopMoney(visitor)} chosen={search.sku ?? null} />
      </>
    )
  }
  const away = findAway(visitor, code)
  if (!away) {
    // The new code of something a visitor is not shown is not revealed.
    const now = await nowKnownAs('product', code)
    if (now === null || !loadShopProduct(visitor, now)) notFound()
    permanentRedirect(recordHref('shop/product', now))
  }
  return <AwayPage {...away} back={recordHref('shop/product', code)} />
})
