import { merchantRoute } from '@/server/session/permit'
import { saveDesk } from '@/features/desk/save-desk'
import { currentInstant } from '@/server/clock'
import { refuse } from '@/server/doors/with-store'
import { readBody } from '@/server/exchange/read-body'
import { type NextRequest, NextResponse } from 'next/server'

/** Saves an order of the desk while it is typed; the answer is what it comes to. */
export const POST = merchantRoute('desk:work', async (request: NextRequest, { steppe, prepared }) => {
  const body = await readBody(request)
  if (!body.ok) return refuse(body.status, 'malformed', 'This is no order of the desk.')
  const saved = await saveDesk({ steppe, prepared, now: currentInstant().getTime() }, body.value)
  return NextResponse.json(saved, { status: saved.ok ? 200 : 409 })
})
