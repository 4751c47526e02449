import { shopPage } from '@/server/session/permit'
import { enterShopPage } from '@/features/shop/entrance/enter'
import { loadQuotes } from '@/features/shop/quotes/load-quotes'
import { QuotesPage } from '@/features/shop/quotes/quotes-page'

export default shopPage(async ({ searchParams }: { readonly searchParams: Promise<{ before?: string }> }) => {
  const visitor = await enterShopPage()
  const before = Number((await searchParams).before)
  return (
    <QuotesPage {...await loadQuotes(visitor, Number.isSafeInteger(before) && before > 0 ? before : null)} />
  )
})
