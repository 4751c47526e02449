import { merchantRoute } from '@/server/session/permit'
import { parseWanted } from '@/features/reprice/put-into-draft'
import { sendReprice } from '@/features/reprice/send-reprice'
import { refuse } from '@/server/doors/with-store'
import { readBody } from '@/server/exchange/read-body'
import type { NextRequest } from 'next/server'

/** 100,000 keys of rows are some four megabytes. */
const LARGEST = 16 * 2 ** 20

/** Puts what a rule comes to into a draft; the body of the answer tells how it comes on, and then what came of it. */
export const POST = merchantRoute('drafts:edit', async (request: NextRequest) => {
  const body = await readBody(request, LARGEST)
  const wanted = body.ok ? parseWanted(body.value) : null
  if (!wanted) return refuse(400, 'malformed', 'Send what is to be repriced: fields, leftOut and typed.')
  return sendReprice(wanted)
})
