import { merchantRoute } from '@/server/session/permit'
import { calendarFeed } from '@/features/calendar/calendar-feed'

/** The calendar of starts and ends, for whoever subscribes to it. */
export const GET = merchantRoute(
  'prices:look',
  async (_request: Request, { steppe }) =>
    new Response(await calendarFeed(steppe), { headers: { 'content-type': 'text/calendar; charset=utf-8' } }),
)
