import { merchantRoute } from '@/server/session/permit'
import { sendImpact } from '@/features/drafts/impact/send-impact'
import { refuse } from '@/server/doors/with-store'
import { draftImpact, type DraftView } from '@/server/drafts/draft-impact'
import { getView } from '@/server/views/views'
import type { NextRequest } from 'next/server'

/** What a draft changes for whom, as a file. */
export const GET = merchantRoute('prices:look', async (request: NextRequest, { steppe }) => {
  const fields = request.nextUrl.searchParams
  const code = fields.get('draft') ?? ''
  const view = await getView(steppe, { kind: 'draft', code })
  if (!view.draft) return refuse(404, 'no-such-draft', `There is no open draft “${code.slice(0, 100)}”.`)
  const moved = {
    impacts: await draftImpact(view as DraftView),
    before: view.draft.live.store,
    after: view.prepared.store,
    names: ['Live', 'Draft'],
  } as const
  return sendImpact(moved, { as: fields.get('as'), name: `impact-${view.draft.draft.code}` })
})
