import { sightOf } from '@/server/session/doing'
import { merchantRoute } from '@/server/session/permit'
import { parseBetween } from '@/features/drafts/impact/between-url'
import { sendImpact } from '@/features/drafts/impact/send-impact'
import { currentInstant } from '@/server/clock'
import { impactBetween } from '@/server/views/impact-between'
import type { NextRequest } from 'next/server'

/** What moved for whom between two instants, as a file. */
export const GET = merchantRoute('prices:look', async (request: NextRequest, { steppe, doer }) => {
  const fields = Object.fromEntries(request.nextUrl.searchParams)
  const { since, until } = parseBetween(fields, currentInstant().getTime())
  const { before, after, impacts } = await impactBetween(steppe, since, until, sightOf(doer))
  const moved = { impacts, before: before.store, after: after.store, names: ['Before', 'After'] } as const
  const name = `impact-${since.toISOString().slice(0, 10)}-${until.toISOString().slice(0, 10)}`
  return sendImpact(moved, { as: fields['as'] ?? null, name })
})
