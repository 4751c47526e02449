import { merchantPage } from '@/server/session/permit'
import { DeskPage } from '@/features/desk/desk-page'
import { loadDesk } from '@/features/desk/load-desk'
import { lookFrom } from '@/server/engine/look-from'
import { parseVantage } from '@/ui/frame/vantage-url'
import type { Metadata } from 'next'
import { notFound } from 'next/navigation'

export const metadata: Metadata = { title: 'Desk' }

export default merchantPage(
  'desk:work',
  async ({ searchParams }: { readonly searchParams: Promise<Record<string, string>> }) => {
    const fields = await searchParams
    const requestContext = await lookFrom(parseVantage(new URLSearchParams(fields)))
    const { order = '' } = fields
    const view = await loadDesk(requestContext, /^\d{1,9}$/.test(order) ? Number(order) : null)
    if (!view) notFound()
    return <DeskPage key={view.number ?? 'new'} view={view} />
  },
)
