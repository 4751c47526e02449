import { exportImpact } from '@/features/drafts/review/export-impact'
import { refuse, withStore } from '@/server/doors/with-store'
import type { DraftView } from '@/server/drafts/draft-impact'
import { getView } from '@/server/views/views'
import type { NextRequest } from 'next/server'

/** What a draft changes for whom, as a file. */
export const GET = withStore(async (request: NextRequest, { steppe }) => {
  const code = request.nextUrl.searchParams.get('draft') ?? ''
  const view = await getView(steppe, { kind: 'draft', code })
  if (!view.draft) return refuse(404, 'no-such-draft', `There is no open draft “${code.slice(0, 100)}”.`)
  return new Response(await exportImpact(view as DraftView), {
    headers: {
      'content-type': 'text/csv; charset=utf-8',
      'content-disposition': `attachment; filename*=UTF-8''${encodeURIComponent(`impact-${view.draft.draft.code}.csv`)}`,
    },
  })
})
