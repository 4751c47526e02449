import { merchantRoute } from '@/server/session/permit'
import { wrongRowsFile } from '@/features/imports/load-import'
import type { NextRequest } from 'next/server'

interface Context {
  readonly params: Promise<{ readonly id: string }>
}

/** The rows of an import that do not go, each with the reason. */
export const GET = merchantRoute(
  'live:edit',
  async (_request: NextRequest, { steppe }, { params }: Context) => {
    const file = await wrongRowsFile(steppe, (await params).id)
    if (!file) return Response.json({ error: 'There is no such import any more.' }, { status: 404 })
    return new Response(file.text, {
      headers: {
        'content-type': 'text/csv; charset=utf-8',
        'content-disposition': `attachment; filename*=UTF-8''${encodeURIComponent(file.name)}`,
      },
    })
  },
)
