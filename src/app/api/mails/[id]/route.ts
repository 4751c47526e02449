import { merchantRoute } from '@/server/session/permit'
import { refuse } from '@/server/doors/with-store'
import { readMailFile } from '@/server/mails/send-mails'
import type { NextRequest } from 'next/server'

interface Context {
  readonly params: Promise<{ id: string }>
}

/** A mail as the file it went out as (RFC 5322). */
export const GET = merchantRoute(
  'mails:look',
  async (_request: NextRequest, { steppe }, { params }: Context) => {
    const { id } = await params
    const file = /^\d{1,12}$/.test(id) ? await readMailFile(steppe, Number(id)) : null
    if (!file) return refuse(404, 'no-such-mail', 'There is no such mail.')
    return new Response(new Uint8Array(file), {
      headers: {
        'content-type': 'message/rfc822',
        'content-disposition': `attachment; filename="mail-${id}.eml"`,
        'cache-control': 'private, no-store',
      },
    })
  },
)
