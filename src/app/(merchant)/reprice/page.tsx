import { merchantPage } from '@/server/session/permit'
import { loadReprice } from '@/features/reprice/load-reprice'
import { RepricePage } from '@/features/reprice/reprice-page'
import { parseReprice } from '@/features/reprice/reprice-url'
import { lookFrom } from '@/server/engine/look-from'
import { parseVantage } from '@/ui/frame/vantage-url'
import type { Metadata } from 'next'

export const metadata: Metadata = { title: 'Reprice' }

export default merchantPage(
  'drafts:edit',
  async ({ searchParams }: { readonly searchParams: Promise<Record<string, string>> }) => {
    const fields = await searchParams
    const requestContext = await lookFrom(parseVantage(new URLSearchParams(fields)))
    return <RepricePage view={await loadReprice(requestContext, parseReprice(fields))} />
  },
)
