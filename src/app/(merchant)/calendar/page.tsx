import { merchantPage } from '@/server/session/permit'
import { CalendarPage } from '@/features/calendar/calendar-page'
import { loadCalendar } from '@/features/calendar/load-calendar'
import { lookFrom } from '@/server/engine/look-from'
import { parseVantage } from '@/ui/frame/vantage-url'
import type { Metadata } from 'next'

export const metadata: Metadata = { title: 'Calendar' }

export default merchantPage(
  'prices:look',
  async ({ searchParams }: { readonly searchParams: Promise<Record<string, string>> }) => {
    const fields = await searchParams
    const requestContext = await lookFrom(parseVantage(new URLSearchParams(fields)))
    return <CalendarPage view={await loadCalendar(requestContext, fields['sku'])} />
  },
)
