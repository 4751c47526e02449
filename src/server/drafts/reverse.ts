import 'server-only'

import { rebase } from '@/core/store/rebase'
import { reverseChanges } from '@/core/store/store'
import type { CommitNote } from '../changes/commit-outcome'
import { readChanges, undoNote } from '../changes/history'
import type { Steppe } from '../engine/steppe'
import { liveView } from '../views/view'
import { inDraft, writeDraft } from './commit-to-draft'
import { beginDraft, type Draft, type DraftEdit } from './draft-rows'
import { viewOf } from './draft-view'

/**
 * Begins a draft that takes a change set back exactly. What has been changed again since is a conflict of it, to settle
 * and not to overwrite.
 *
 * Errors  `null` when there is no such change set.
 */
export async function reverseIntoDraft(
  steppe: Steppe,
  changeSet: number,
  { author, at }: Pick<CommitNote, 'author' | 'at'>,
): Promise<Draft | null> {
  const live = liveView(steppe)
  const back = reverseChanges(await readChanges(live, changeSet))
  if (back.length === 0) return null
  const note = await undoNote(live, changeSet)
  const draft = await beginDraft(steppe.database, { name: note, author, at })
  await inDraft(steppe, draft.id, async () => {
    const view = await viewOf(steppe, draft)
    const rebased = rebase(back, view.prepared.store)
    const edits = back.map((change, at): DraftEdit => ({ shown: rebased[at]?.change ?? change, change }))
    await writeDraft(view, edits, null, { author, at, note }, () => undefined)
  })
  return draft
}
