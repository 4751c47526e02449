import {
  BEGINNING,
  changeLines,
  changesBehind,
  feedPositionText,
  parseFeedPosition,
} from '@/server/changes/change-feed'
import { textStream } from '@/server/doors/text-stream'
import { refuse } from '@/server/doors/with-store'
import { getSteppe } from '@/server/engine/steppe'
import { machineRoute } from '@/server/session/permit'
import { type NextRequest, NextResponse } from 'next/server'

const MOST = 1_000

/** What was changed since a position, a page at a time; with `as=jsonl` all of it as JSON Lines. */
export const GET = machineRoute<NextRequest>(
  { scope: 'store:read', permission: 'store:export' },
  async (request) => {
    const fields = request.nextUrl.searchParams
    const since = fields.get('since') ?? ''
    const from = since === '' ? BEGINNING : parseFeedPosition(since)
    if (!from)
      return refuse(400, 'bad-position', `since “${since.slice(0, 60)}” is no position, such as 12 or 12.3.`)
    const limit = Number(fields.get('limit') ?? MOST)
    if (!Number.isInteger(limit) || limit < 1 || limit > MOST)
      return refuse(400, 'bad-limit', `limit is a whole number from 1 to ${MOST}.`)
    const steppe = await getSteppe()
    if (fields.get('as') === 'jsonl')
      return new Response(textStream(changeLines(steppe, from, MOST)), {
        headers: {
          'content-type': 'application/jsonl; charset=utf-8',
          'content-disposition': 'attachment; filename="history.jsonl"',
        },
      })
    const changes = await changesBehind(steppe, from, limit)
    const last = changes.at(-1)
    return NextResponse.json({
      changes,
      // Where to go on, even if there is nothing more just now.
      next: last ? feedPositionText(last) : since || '0',
      isLast: changes.length < limit,
    })
  },
)
