import 'server-only'

import { amend, type DraftChange } from '@/core/drafts/amend'
import { meansTheSame } from '@/core/store/same-meaning'
import { rebase } from '@/core/store/rebase'
import type { Change } from '@/core/store/store'
import { eq } from 'drizzle-orm'
import { MOST_AT_ONCE } from '../changes/commit-in-slices'
import type { CommitNote, CommitOutcome, CommitProgress } from '../changes/commit-outcome'
import { inTurn } from '../changes/turns'
import { type ChangeRequest, weigh } from '../changes/weigh'
import { isDiskFull } from '../database/disk-room'
import { draftChangeSets } from '../database/schema'
import { Slices } from '../doors/slices'
import type { Steppe } from '../engine/steppe'
import type { Turns } from '../engine/under-way'
import { revisionKey } from '../records/record-tables'
import type { Target, View, ViewedDraft } from '../views/view'
import { type DraftEdit, forgetUnfinishedEdit, lockOfDraft, writeEdits } from './draft-rows'
import { draftView, forgetViews, keepView } from './draft-view'

/** Puts changes into a draft, which nobody else notices: live stays as it is. Errors as of `commit`. */
export async function commitToDraft(
  seen: Target,
  { draft: { code, id } }: ViewedDraft,
  requests: readonly ChangeRequest[],
  note: CommitNote,
  onProgress: CommitProgress,
): Promise<CommitOutcome> {
  const { steppe } = seen
  return inDraft(steppe, id, async () => {
    if (isDiskFull(steppe)) return { ok: false, code: 'disk-full', freeBytes: steppe.freeBytes() }
    const view = await draftView(steppe, code)
    if (!view) return { ok: false, code: 'no-such-draft', draft: code }
    const weighed = await weigh(view, requests, { seen, onRead: (done) => onProgress('checking', done) })
    if (!weighed.ok) return weighed
    const { known, live } = view.draft as ViewedDraft
    const edits = weighed.changes.map((shown): DraftEdit => ({
      shown,
      change: amend(known.get(revisionKey(shown)) ?? null, shown, live.store),
    }))
    const changeSet = await writeDraft(view, edits, weighed.after, note, onProgress)
    return { ok: true, changeSet, changes: weighed.changes, before: view.prepared, after: weighed.after }
  })
}

/** Acts when nobody else writes in a draft, in this process or another. */
export function inDraft<Result>(
  { draftTurns, locks }: Steppe,
  draft: number,
  act: () => Promise<Result>,
): Promise<Result> {
  let turns: Turns | undefined = draftTurns.get(draft)
  if (!turns) draftTurns.set(draft, (turns = { writing: Promise.resolve() }))
  return inTurn(
    turns,
    () => null,
    () => locks.hold(lockOfDraft(draft), act),
  )
}

/**
 * Writes edits that have been weighed, and makes them what is known of the draft. Resolves to their number. `after` is the
 * engine with them in; `null` where whoever looks next shall make it.
 */
export async function writeDraft(
  view: View,
  edits: readonly DraftEdit[],
  after: View['prepared'] | null,
  { author, at, note }: Pick<CommitNote, 'author' | 'at' | 'note'>,
  onProgress: CommitProgress,
): Promise<number> {
  const { steppe } = view
  const viewed = view.draft as ViewedDraft
  const { database } = steppe
  const draft = viewed.draft.id
  const isLarge = edits.length > MOST_AT_ONCE
  const set = { draft, at, author, note, isUnfinished: isLarge }
  const changeSet = await database.transaction(async (transaction) => {
    const [row] = await transaction.insert(draftChangeSets).values(set).returning({ id: draftChangeSets.id })
    const changeSet = (row as { readonly id: number }).id
    if (!isLarge) await writeEdits(transaction, { draft, changeSet }, edits, () => undefined)
    return changeSet
  })
  if (isLarge) await writeMany(steppe, { draft, changeSet }, edits, onProgress)
  steppe.sync()
  if (!after) {
    forgetViews(steppe, draft)
    return changeSet
  }
  const content = withEdits(viewed, edits, changeSet)
  const written: View = {
    ...view,
    prepared: after,
    asOf: Math.max(view.asOf, changeSet),
    draft: { ...viewed, ...content },
  }
  keepView(steppe, draft, { live: viewed.live, edit: changeSet, view: Promise.resolve(written) })
  return changeSet
}

/** Writes many edits in slices, between which others go on; none of them counts before all are there. */
async function writeMany(
  steppe: Steppe,
  into: { readonly draft: number; readonly changeSet: number },
  edits: readonly DraftEdit[],
  onProgress: CommitProgress,
): Promise<void> {
  const { database } = steppe
  const slices = new Slices()
  try {
    await writeEdits(database, into, edits, async (done) => {
      await onProgress('writing', done)
      await steppe.syncMeanwhile()
      await slices.rest()
    })
    await steppe.syncMeanwhile()
    await database
      .update(draftChangeSets)
      .set({ isUnfinished: false })
      .where(eq(draftChangeSets.id, into.changeSet))
  } catch (error) {
    await forgetUnfinishedEdit(database, into.changeSet)
    throw error
  }
}

/** What a draft does after some edits, without laying all of it over the store again. */
function withEdits(
  { known, revisions, conflicts, live }: ViewedDraft,
  edits: readonly DraftEdit[],
  changeSet: number,
): Pick<ViewedDraft, 'known' | 'revisions' | 'changes' | 'conflicts'> {
  const after = new Map(known)
  const numbers = new Map(revisions)
  const touched = new Set<string>()
  for (const { shown, change } of edits) {
    const key = revisionKey(shown)
    touched.add(key)
    if (change) {
      after.set(key, change)
      numbers.set(key, changeSet)
    } else {
      after.delete(key)
      numbers.delete(key)
    }
  }
  const invalid = conflicts.filter(
    ({ change, because }) => because.code === 'invalid' && !touched.has(revisionKey(change)),
  )
  const out = new Set(invalid.map(({ change }) => revisionKey(change)))
  const all: readonly DraftChange[] = [...after.values()]
  const rebased = rebase(all, live.store)
  const changes: Change[] = []
  const open: ViewedDraft['conflicts'][number][] = [...invalid]
  for (const [at, { change, conflict }] of rebased.entries()) {
    if (conflict) open.push({ change: all[at] as DraftChange, because: conflict })
    if (!out.has(revisionKey(change)) && !meansTheSame(change.before, change.after)) changes.push(change)
  }
  return { known: after, revisions: numbers, changes, conflicts: open }
}
