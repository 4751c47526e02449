import { shopPage } from '@/server/session/permit'
import { enterShopPage } from '@/features/shop/entrance/enter'
import { AskForm } from '@/features/shop/quotes/ask-form'
import { loadAsk } from '@/features/shop/quotes/load-ask'

export default shopPage(
  async ({
    searchParams,
  }: {
    readonly searchParams: Promise<{ from?: string; line?: string | string[] }>
  }) => {
    const { from, line = [] } = await searchParams
    const view = await loadAsk(await enterShopPage(), {
      isOfCart: from === 'cart',
      written: Array.isArray(line) ? line : [line],
    })
    return <AskForm key={JSON.stringify(view.begun)} view={view} />
  },
)
