import { calendarFeed } from '@/features/calendar/calendar-feed'
import { withStore } from '@/server/doors/with-store'

/** The calendar of starts and ends, for whoever subscribes to it. */
export const GET = withStore(
  async (_request: Request, { steppe }) =>
    new Response(await calendarFeed(steppe), { headers: { 'content-type': 'text/calendar; charset=utf-8' } }),
)
