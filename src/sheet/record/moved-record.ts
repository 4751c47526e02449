import 'server-only'

import type { RecordKind } from '@/core/issue/issue'
import { labelOf } from '@/core/store/references'
import { recordHref } from '@/ui/frame/record-href'
import { notFound, permanentRedirect } from 'next/navigation'
import { formerlyKnownAs } from '@/server/changes/history'
import { currentView } from '@/server/views/current-view'

/** What a record goes by now that once went by a code; `null` where there is none. */
export async function nowKnownAs(kind: RecordKind, code: string): Promise<string | null> {
  const view = await currentView()
  const id = await formerlyKnownAs(view.steppe, kind, code)
  const record = id === null ? undefined : view.prepared.store[kind].get(id)
  return record ? labelOf(kind, record) : null
}

/**
 * For a page whose record is not known by the code in the address: where a record was renamed its links lead to it still,
 * with whatever else the address says; otherwise there is no such page.
 */
export async function leadToRecord(
  kind: RecordKind,
  path: string,
  code: string,
  search: Readonly<Record<string, string | undefined>>,
): Promise<never> {
  const now = await nowKnownAs(kind, code)
  if (now === null) notFound()
  const said = Object.entries(search).filter((entry): entry is [string, string] => entry[1] !== undefined)
  const query = said.length === 0 ? '' : `?${new URLSearchParams(said)}`
  permanentRedirect(`${recordHref(path, now)}${query}`)
}
