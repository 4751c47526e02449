import 'server-only'

import type { DocumentError } from './store-document'

/** The JSON a request carries, or what is wrong with it. */
export async function readBody(
  request: Request,
): Promise<
  { readonly ok: true; readonly value: unknown } | { readonly ok: false; readonly error: DocumentError }
> {
  try {
    return { ok: true, value: await request.json() }
  } catch (error) {
    return {
      ok: false,
      error: { code: 'malformed', where: '', value: (error as Error).message, expected: 'JSON' },
    }
  }
}
