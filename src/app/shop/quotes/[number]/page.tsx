import { shopPage } from '@/server/session/permit'
import { enterShopPage } from '@/features/shop/entrance/enter'
import { loadQuote } from '@/features/shop/quotes/load-quotes'
import { QuotePage } from '@/features/shop/quotes/quote-page'
import { notFound } from 'next/navigation'

interface ShopQuoteProps {
  readonly params: Promise<{ number: string }>
  readonly searchParams: Promise<{ asked?: string }>
}

export default shopPage(async ({ params, searchParams }: ShopQuoteProps) => {
  const visitor = await enterShopPage()
  const { number } = await params
  const view = /^\d{1,9}$/.test(number) ? await loadQuote(visitor, Number(number)) : null
  if (!view) notFound()
  return <QuotePage key={view.version} view={view} isNew={(await searchParams).asked === '1'} />
})
