import 'server-only'

import type { PreparedStore } from '@/core/engine/context/prepared-store'
import type { Steppe } from '../engine/steppe'
import { openDrafts } from './draft-rows'
import { viewOf } from './draft-view'

/** Every open draft as if it were live, by what price questions call it: `draft:spring`. */
export async function draftStores(steppe: Steppe): Promise<ReadonlyMap<string, PreparedStore>> {
  const stores = new Map<string, PreparedStore>()
  for (const draft of await openDrafts(steppe.database))
    stores.set(`draft:${draft.code}`, (await viewOf(steppe, draft)).prepared)
  return stores
}
