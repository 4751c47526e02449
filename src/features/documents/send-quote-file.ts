import 'server-only'

import { refuse } from '@/server/doors/with-store'
import type { Steppe } from '@/server/engine/steppe'
import { readQuoteFile } from '@/server/quotes/quote-files'
import type { Quote } from '@/server/quotes/quote-rows'

/** A file of a request as an answer. It is kept, never shown in the window: somebody else wrote it. */
export async function sendQuoteFile(
  { database }: Pick<Steppe, 'database'>,
  quote: Quote | null,
  id: string,
): Promise<Response> {
  const file = quote && (await readQuoteFile(database, quote.number, id))
  if (!file) return refuse(404, 'no-such-file', 'There is no such file.')
  return new Response(file.content as Uint8Array<ArrayBuffer>, {
    headers: {
      'content-type': file.type,
      'content-disposition': `attachment; filename*=UTF-8''${encodeURIComponent(file.name)}`,
      'content-security-policy': "default-src 'none'; sandbox",
      'x-content-type-options': 'nosniff',
      'cache-control': 'private, no-store',
    },
  })
}
