import { merchantPage } from '@/server/session/permit'
import { FindingsPage } from '@/features/findings/findings-page'
import { loadFindings } from '@/features/findings/load-findings'
import { lookFrom } from '@/server/engine/look-from'
import { parseVantage } from '@/ui/frame/vantage-url'
import type { Metadata } from 'next'

export const metadata: Metadata = { title: 'Findings' }

export default merchantPage(
  'prices:look',
  async ({ searchParams }: { readonly searchParams: Promise<Record<string, string>> }) => {
    const fields = await searchParams
    const requestContext = await lookFrom(parseVantage(new URLSearchParams(fields)))
    const shown = {
      place: fields['place'] ?? null,
      open: fields['open'] ?? null,
      muted: fields['muted'] === '1',
    }
    return <FindingsPage view={await loadFindings(requestContext, shown)} />
  },
)
