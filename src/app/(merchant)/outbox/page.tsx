import { merchantPage } from '@/server/session/permit'
import { loadOutbox, parseOutbox } from '@/features/outbox/load-outbox'
import { OutboxPage } from '@/features/outbox/outbox-page'
import { lookFrom } from '@/server/engine/look-from'
import { parseVantage } from '@/ui/frame/vantage-url'
import type { Metadata } from 'next'

export const metadata: Metadata = { title: 'Outbox' }

export default merchantPage(
  'mails:look',
  async ({ searchParams }: { readonly searchParams: Promise<Record<string, string>> }) => {
    const fields = await searchParams
    const requestContext = await lookFrom(parseVantage(new URLSearchParams(fields)))
    return <OutboxPage view={await loadOutbox(requestContext, parseOutbox(fields), null)} />
  },
)
