import { shopPage } from '@/server/session/permit'
import { CategoryPage } from '@/features/shop/catalogue/category-page'
import { loadListing, shopMoney } from '@/features/shop/catalogue/load-shop'
import { readPage } from '@/features/shop/frame/pages'
import { addressWord } from '@/server/doors/address-word'
import { nowKnownAs } from '@/sheet/record/moved-record'
import { recordHref } from '@/ui/frame/record-href'
import { notFound, permanentRedirect } from 'next/navigation'
import { enterShopPage } from '@/features/shop/entrance/enter'

export default shopPage(
  async ({
    params,
    searchParams,
  }: {
    readonly params: Promise<{ code: string }>
    readonly searchParams: Promise<{ page?: string }>
  }) => {
    const code = addressWord((await params).code)
    const visitor = await enterShopPage(recordHref('shop/category', code))
    const search = await searchParams
    const listing = loadListing(visitor, code, readPage(search.page))
    if (!listing) {
      const now = await nowKnownAs('category', code)
      if (now === null || !loadListing(visitor, now)) notFound()
      permanentRedirect(recordHref('shop/category', now))
    }
    return <CategoryPage code={code} listing={listing} money={shopMoney(visitor)} />
  },
)
