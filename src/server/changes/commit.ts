import 'server-only'

import { moveStock } from '@/core/catalogue/stock'
import { parseDecimal } from '@/core/decimal/decimal'
import type { Store } from '@/core/store/store'
import { isDiskFull } from '../database/disk-room'
import type { Steppe } from '../engine/steppe'
import { commitInSlices, MOST_AT_ONCE } from './commit-in-slices'
import type { CommitNote, CommitOutcome, CommitProgress } from './commit-outcome'
import { inTurn, mustWait } from './turns'
import { type ChangeRequest, weigh, weighAgain } from './weigh'
import { writeAtOnce } from './write-at-once'

/** Who changes what happens by itself when something is sold. */
export const SHOP_AUTHOR = 'Shop'

/**
 * The one door for writes: all of the requests become one change set, or none does. Many are written in slices, between
 * which others read and write whatever these do not touch.
 *
 * Holds   when it resolves with `ok`, the change set is on disk and the prepared engine knows it.
 * Errors  returned: what is wrong with the records, which of them changed meanwhile, or that nothing
 *         would change. A failing database rejects, and then nothing was written.
 */
export async function commit(
  steppe: Steppe,
  requests: readonly ChangeRequest[],
  note: CommitNote,
  onProgress: CommitProgress = () => undefined,
): Promise<CommitOutcome> {
  const seen = steppe.prepared?.store
  const wanted = () => afterSales(steppe, seen, requests)
  // A store that is made, or mended, is nobody's to work in yet.
  if (requests.length > MOST_AT_ONCE && steppe.prepared)
    return commitInSlices(steppe, requests, wanted, note, onProgress)
  return inTurn(
    steppe,
    () => mustWait(steppe, requests),
    () => commitAtOnce(steppe, wanted(), note, onProgress),
  )
}

/** What was sold while a request waited for its turn stays sold: records keep their revision when stock goes down. */
function afterSales(
  { prepared }: Steppe,
  seen: Store | undefined,
  requests: readonly ChangeRequest[],
): readonly ChangeRequest[] {
  if (!seen || !prepared || seen.variant === prepared.store.variant) return requests
  return requests.map((request): ChangeRequest => {
    if (request.kind !== 'variant' || request.after === null) return request
    const then = seen.variant.get(request.id)?.stock ?? null
    const now = prepared.store.variant.get(request.id)?.stock ?? null
    const wanted = parseDecimal(request.after.stock ?? '')
    if (wanted === null || then === now) return request
    return { ...request, after: { ...request.after, stock: moveStock(now, then, wanted) } }
  })
}

async function commitAtOnce(
  steppe: Steppe,
  requests: readonly ChangeRequest[],
  note: CommitNote,
  onProgress: CommitProgress,
): Promise<CommitOutcome> {
  if (isDiskFull(steppe)) return { ok: false, code: 'disk-full', freeBytes: steppe.freeBytes() }
  const weighed = await weigh(steppe, requests, (done) => onProgress('checking', done))
  if (!weighed.ok) return weighed
  const { underWay } = steppe
  // What is written in slices is as good as there: this must be able to stand beside it, too.
  const beside = underWay?.after ? await weighAgain(underWay.after, weighed.changes) : null
  if (beside && !beside.ok) return beside
  const committed = await writeAtOnce(steppe, weighed, note, onProgress)
  if (underWay && beside?.ok) underWay.after = beside.after
  else underWay?.meanwhile.push(...weighed.changes)
  return committed
}
