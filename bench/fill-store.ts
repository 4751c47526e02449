import { RECORD_KINDS } from '@/core/issue/issue'
import { commit } from '@/server/changes/commit'
import type { ChangeRequest } from '@/server/changes/weigh'
import type { Steppe } from '@/server/engine/steppe'
import { largeStore, type StoreSize } from './large-store'
import { liveTarget } from '@/server/views/view'

/** Writes a generated store into an empty one, as one change. */
export async function fillStore(steppe: Steppe, size: StoreSize, at: Date): Promise<void> {
  const store = largeStore(size)
  const requests = RECORD_KINDS.flatMap((kind) =>
    [...store[kind].values()].map((after) => ({ kind, id: after.id, seen: null, after })),
  )
  const outcome = await commit(liveTarget(steppe), requests as unknown as ChangeRequest[], {
    author: 'Bench',
    note: 'fill',
    at,
  })
  if (!outcome.ok) throw new Error(JSON.stringify(outcome).slice(0, 400))
}
