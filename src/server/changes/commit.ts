import 'server-only'

import { isDiskFull } from '../database/disk-room'
import type { Steppe } from '../engine/steppe'
import { liveTarget, liveView, type Target } from '../views/view'
import { commitInSlices, MOST_AT_ONCE } from './commit-in-slices'
import type { CommitNote, CommitOutcome, CommitProgress, Committed } from './commit-outcome'
import { commitToDraft } from '../drafts/commit-to-draft'
import { inLiveTurn, mustWait } from './turns'
import { type ChangeRequest, weigh, weighAgain } from './weigh'
import { writeAtOnce } from './write-at-once'

/**
 * The one door for writes, to what is live or to a draft: all of the requests become one change set, or none does. Many are written in slices, between
 * which others read and write whatever these do not touch.
 *
 * Holds   when it resolves with `ok`, the change set is on disk and the prepared engine knows it.
 * Errors  returned: what is wrong with the records, which of them changed meanwhile, or that nothing
 *         would change. A failing database rejects, and then nothing was written.
 */
export async function commit(
  target: Target,
  requests: readonly ChangeRequest[],
  note: CommitNote,
  onProgress: CommitProgress = () => undefined,
): Promise<CommitOutcome> {
  const { steppe, draft, missing } = target
  if (missing !== null) return { ok: false, code: 'no-such-draft', draft: missing }
  if (target.isGuarded) return { ok: false, code: 'drafts-only' }
  if (draft) return commitToDraft(target, draft, requests, note, onProgress)
  // A store that is made, or mended, is nobody's to work in yet.
  if (requests.length > MOST_AT_ONCE && steppe.prepared)
    return commitInSlices(target, requests, note, onProgress)
  return inLiveTurn(
    steppe,
    () => mustWait(steppe, requests),
    () => commitAtOnce(target, requests, note, onProgress),
  )
}

/** Writes a change set in which no record changes, for what is written with it. */
export function noteChange(steppe: Steppe, note: CommitNote): Promise<Committed> {
  return inLiveTurn(
    steppe,
    () => mustWait(steppe, []),
    () => {
      const { prepared } = liveView(steppe)
      const nothing = { ok: true, changes: [], before: prepared, after: prepared } as const
      return writeAtOnce(steppe, nothing, note, () => undefined)
    },
  )
}

async function commitAtOnce(
  target: Target,
  requests: readonly ChangeRequest[],
  note: CommitNote,
  onProgress: CommitProgress,
): Promise<CommitOutcome> {
  const { steppe } = target
  if (isDiskFull(steppe)) return { ok: false, code: 'disk-full', freeBytes: steppe.freeBytes() }
  const weighed = await weigh(liveTarget(steppe), requests, {
    seen: target,
    onRead: (done) => onProgress('checking', done),
  })
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
