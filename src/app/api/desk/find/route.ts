import { merchantRoute } from '@/server/session/permit'
import { findAtDesk } from '@/features/desk/load-desk'
import { currentInstant } from '@/server/clock'
import { parseDesk } from '@/server/desk/desk-shape'
import { refuse } from '@/server/doors/with-store'
import { readBody } from '@/server/exchange/read-body'
import { type NextRequest, NextResponse } from 'next/server'

const LONGEST = 200

/** Items by SKU or words, each at what so many cost the buyer of an order of the desk. */
export const POST = merchantRoute('desk:work', async (request: NextRequest, { steppe, prepared }) => {
  const body = await readBody(request)
  const { content, words, quantity } = (body.ok ? body.value : {}) as Readonly<Record<string, unknown>>
  const desk = parseDesk(content)
  if (!desk || typeof words !== 'string' || typeof quantity !== 'string' || words.length > LONGEST)
    return refuse(400, 'malformed', 'Send the order with the words to look for and a quantity.')
  const now = currentInstant().getTime()
  return NextResponse.json({
    found: await findAtDesk({ steppe, prepared, now }, desk, { words, quantity: quantity.slice(0, LONGEST) }),
  })
})
