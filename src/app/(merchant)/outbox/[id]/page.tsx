import { merchantPage } from '@/server/session/permit'
import { loadOutbox, parseOutbox } from '@/features/outbox/load-outbox'
import { OutboxPage } from '@/features/outbox/outbox-page'
import { lookFrom } from '@/server/engine/look-from'
import { parseVantage } from '@/ui/frame/vantage-url'
import type { Metadata } from 'next'
import { notFound } from 'next/navigation'

export const metadata: Metadata = { title: 'Outbox' }

export default merchantPage(
  'mails:look',
  async ({
    params,
    searchParams,
  }: {
    readonly params: Promise<{ id: string }>
    readonly searchParams: Promise<Record<string, string>>
  }) => {
    const { id } = await params
    const fields = await searchParams
    const requestContext = await lookFrom(parseVantage(new URLSearchParams(fields)))
    if (!/^\d{1,12}$/.test(id)) notFound()
    const view = await loadOutbox(requestContext, parseOutbox(fields), Number(id))
    if (!view.read) notFound()
    return <OutboxPage view={view} />
  },
)
