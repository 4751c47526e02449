import { merchantPage } from '@/server/session/permit'
import { loadQuoteList, QUOTE_STATE_CHOICES } from '@/features/quotes/load-quote-list'
import { parseQuoteFilter } from '@/features/quotes/quote-filter'
import { QuoteListPage } from '@/features/quotes/quote-list-page'
import { lookFrom } from '@/server/engine/look-from'
import { parseVantage } from '@/ui/frame/vantage-url'
import type { Metadata } from 'next'

export const metadata: Metadata = { title: 'Quotes' }

export default merchantPage(
  'quotes:work',
  async ({ searchParams }: { readonly searchParams: Promise<Record<string, string>> }) => {
    const fields = await searchParams
    const requestContext = await lookFrom(parseVantage(new URLSearchParams(fields)))
    return (
      <QuoteListPage
        view={await loadQuoteList(requestContext, parseQuoteFilter(fields))}
        states={QUOTE_STATE_CHOICES}
      />
    )
  },
)
