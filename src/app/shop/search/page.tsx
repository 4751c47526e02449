import { shopPage } from '@/server/session/permit'
import { CardGrid } from '@/features/shop/catalogue/card-grid'
import { searchShop, shopMoney } from '@/features/shop/catalogue/load-shop'
import { enterShopPage } from '@/features/shop/entrance/enter'
import { PageLinks } from '@/features/shop/frame/page-links'
import { readPage } from '@/features/shop/frame/pages'
import { searchWords } from '@/server/doors/search-words'

export default shopPage(
  async ({ searchParams }: { readonly searchParams: Promise<Record<string, string>> }) => {
    const fields = new URLSearchParams(await searchParams)
    const words = searchWords(fields)
    const visitor = await enterShopPage()
    const found = searchShop(visitor, words, readPage(fields.get('page')))
    const hasWords = words.trim() !== ''
    return (
      <>
        <h1 className="pb-6 text-3xl leading-9 font-bold tracking-tight">
          {hasWords ? `${found.total} found for “${words}”` : 'What are you looking for?'}
        </h1>
        {found.total === 0 && hasWords && <p>No results. Try a shorter word, or a part of a SKU.</p>}
        <CardGrid cards={found.cards} money={shopMoney(visitor)} />
        <PageLinks {...found} path={`/shop/search?words=${encodeURIComponent(words)}`} />
      </>
    )
  },
)
