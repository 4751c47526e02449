import 'server-only'

import { findByCode } from '@/core/catalogue/find-by-code'
import { liveView } from '@/server/views/view'
import { getSteppe } from '@/server/engine/steppe'
import { openImport } from '@/server/imports/import-job'
import { tableSentence } from './row-sentence'

/** What sending a file came to: where to go on, or what is wrong with it. */
export type ReceiveOutcome =
  { readonly ok: true; readonly id: string } | { readonly ok: false; readonly problem: string }

const LONGEST_NAME = 200

/** Opens a file somebody sent; `fields` say its name, what it is for and the price list. */
export async function receiveFile(fields: URLSearchParams, bytes: Uint8Array): Promise<ReceiveOutcome> {
  const list = fields.get('list') || null
  const steppe = await getSteppe()
  if (list !== null && !findByCode(liveView(steppe).prepared.store['price-list'], list))
    return { ok: false, problem: `There is no price list “${list}”.` }
  const target =
    fields.get('into') === 'lines' ? ({ kind: 'lines', list } as const) : ({ kind: 'products' } as const)
  const opened = await openImport(steppe, target, {
    name: (fields.get('name') || 'file').slice(0, LONGEST_NAME),
    bytes,
  })
  return opened.ok ? { ok: true, id: opened.job.id } : { ok: false, problem: tableSentence(opened.problem) }
}
