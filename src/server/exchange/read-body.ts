import 'server-only'

import { findTextFault } from '@/core/issue/text-fault'
import type { DocumentError } from './store-document'

/** How large a body may be, unless its reader says more: a thousand questions, or a form of any kind. */
const USUAL_SIZE = 1_000_000
const DEEPEST = 50

export type ReadBody =
  | { readonly ok: true; readonly value: unknown }
  | { readonly ok: false; readonly status: 400 | 413; readonly error: DocumentError }

/**
 * The JSON a request carries, or what is wrong with it.
 *
 * Errors  413 for more than `most` bytes, which are not read to their end; 400 for what is no JSON, lies deeper than 50
 *         levels, or holds text that is none (a null, half of a surrogate pair).
 */
export async function readBody(request: Request, most = USUAL_SIZE): Promise<ReadBody> {
  const bytes = await readBytes(request, most)
  if (bytes === null) return fail(413, 'too-large', `more than ${most} bytes`, `at most ${most} bytes`)
  let value: unknown
  try {
    value = JSON.parse(new TextDecoder('utf-8', { fatal: true }).decode(bytes))
  } catch (error) {
    return fail(400, 'malformed', (error as Error).message.slice(0, 200), 'JSON in UTF-8')
  }
  const fault = findTextFault(value, DEEPEST)
  if (!fault) return { ok: true, value }
  return fault.code === 'too-deep'
    ? fail(400, 'too-deep', `more than ${DEEPEST} levels`, `at most ${DEEPEST} levels`, fault.where)
    : fail(
        400,
        'not-text',
        'characters that are not text',
        'text without nulls and broken pairs',
        fault.where,
      )
}

/** The bytes of a body; `null` when there are more than so many, of which the rest is not read. */
export async function readBytes(request: Request, most: number): Promise<Uint8Array | null> {
  if (Number(request.headers.get('content-length') ?? 0) > most) return null
  const reader = request.body?.getReader()
  if (!reader) return new Uint8Array()
  const chunks: Uint8Array[] = []
  let size = 0
  for (;;) {
    const { done, value } = await reader.read()
    if (done) break
    size += value.byteLength
    if (size > most) {
      await reader.cancel()
      return null
    }
    chunks.push(value)
  }
  return Buffer.concat(chunks)
}

function fail(
  status: 400 | 413,
  code: string,
  value: string,
  expected: string,
  where = '',
): Extract<ReadBody, { ok: false }> {
  return { ok: false, status, error: { code, where, value, expected } }
}
