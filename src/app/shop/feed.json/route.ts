import { getSettings } from '@/core/store/store'
import { currentInstant } from '@/server/clock'
import { textStream } from '@/server/doors/text-stream'
import { feedText } from '@/server/exchange/guest-offers'
import { shopRoute } from '@/server/session/permit'

/** What guests may see, and at which prices, for whoever lists it elsewhere: the same for all who ask. */
export const GET = shopRoute((_request, { prepared }) => {
  const look = { prepared, at: currentInstant().getTime() }
  return new Response(textStream(feedText(look, getSettings(prepared.store).name)), {
    headers: { 'content-type': 'application/ld+json' },
  })
})
