import { merchantPage } from '@/server/session/permit'
import { loadQuote } from '@/features/quotes/load-quote'
import { QuoteSheet } from '@/features/quotes/quote-sheet'
import { lookFrom } from '@/server/engine/look-from'
import { quoteName } from '@/ui/format/quote-phrases'
import { parseVantage } from '@/ui/frame/vantage-url'
import type { Metadata } from 'next'
import { notFound } from 'next/navigation'

interface QuotePageProps {
  readonly params: Promise<{ number: string }>
  readonly searchParams: Promise<Record<string, string>>
}

export async function generateMetadata({ params }: QuotePageProps): Promise<Metadata> {
  return { title: `Quote ${quoteName(Number((await params).number.slice(0, 9)))}` }
}

export default merchantPage('quotes:work', async ({ params, searchParams }: QuotePageProps) => {
  const { number } = await params
  const requestContext = await lookFrom(parseVantage(new URLSearchParams(await searchParams)))
  const view = /^\d{1,9}$/.test(number) ? await loadQuote(requestContext, Number(number)) : null
  if (!view) notFound()
  // What is sent begins anew; what somebody else kept meanwhile is not mixed into what is typed.
  return <QuoteSheet key={`${view.version} ${view.workingVersion}`} view={view} />
})
