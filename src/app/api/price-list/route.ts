import { merchantRoute } from '@/server/session/permit'
import { makePriceList, MOST_ITEMS } from '@/features/documents/make-price-list'
import { sendFile } from '@/features/documents/send-paper'
import { refuse } from '@/server/doors/with-store'
import { lookFrom } from '@/server/engine/look-from'
import { parseVantage } from '@/ui/frame/vantage-url'
import type { NextRequest } from 'next/server'

const SENTENCES = {
  'unknown-category': 'There is no such category.',
  'too-many': `A price list holds at most ${MOST_ITEMS} items: choose a branch with in=.`,
  nothing: 'Whoever is looked as is shown no price there.',
} as const

/** What a buyer pays as a PDF file, from any vantage: `?as=account:fennmoor&in=jars`. */
export const GET = merchantRoute('prices:look', async (request: NextRequest) => {
  const fields = request.nextUrl.searchParams
  const made = await makePriceList(await lookFrom(parseVantage(fields)), fields.get('in'))
  return made.ok
    ? sendFile(made.paper, 'application/pdf')
    : refuse(made.code === 'unknown-category' ? 404 : 409, made.code, SENTENCES[made.code])
})
