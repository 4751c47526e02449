import 'server-only'

import { layOver } from '@/core/drafts/lay-over'
import type { PreparedStore } from '@/core/engine/context/prepared-store'
import { refreshInSteps } from '@/core/engine/prepare'
import { sharedMemory } from '@/core/maps/shared-memory'
import { Slices } from '../doors/slices'
import type { Steppe } from '../engine/steppe'
import { liveView, type View } from '../views/view'
import { type Draft, findDraft, lastEdit, readDraft } from './draft-rows'

/** A view of a draft somebody looked through lately, and what it was made of. */
interface KeptView {
  readonly live: PreparedStore
  readonly edit: number
  readonly view: Promise<View>
}

/** Views made lately, by the ids of their drafts. */
const KEPT = sharedMemory('draft-views', () => new WeakMap<Steppe['database'], Map<number, KeptView>>())

function keptViews({ database }: Steppe): Map<number, KeptView> {
  const known = KEPT.get(database) ?? new Map<number, KeptView>()
  KEPT.set(database, known)
  return known
}

/** Forgets the views that were made of a draft, or of all of them: whoever looks next reads it anew. */
export function forgetViews(steppe: Steppe, draft: number | null = null): void {
  if (draft === null) keptViews(steppe).clear()
  else keptViews(steppe).delete(draft)
}

/** Beyond it the one that was looked through longest ago is forgotten; it is made anew from the database. */
const MOST_KEPT = 4

/**
 * The store as it would be with a draft in.
 *
 * Errors  `null` when no open draft goes by the code.
 */
export async function draftView(steppe: Steppe, code: string): Promise<View | null> {
  const draft = await findDraft(steppe.database, code)
  return draft && viewOf(steppe, draft)
}

/** The store as it would be with a draft in that is known to be open. */
export async function viewOf(steppe: Steppe, draft: Draft): Promise<View> {
  const edit = await lastEdit(steppe.database, draft.id)
  const { prepared: live } = liveView(steppe)
  const kept = keptViews(steppe).get(draft.id)
  if (kept && kept.live === live && kept.edit === edit) {
    const view = await kept.view
    // Its name and its plan may be others by now.
    return { ...view, draft: view.draft && { ...view.draft, draft } }
  }
  const view = makeView(steppe, draft, edit, live)
  keepView(steppe, draft.id, { live, edit, view })
  return view
}

/** Keeps a view that was made, in the place of the one before. */
export function keepView(steppe: Steppe, draft: number, kept: KeptView): void {
  const draftViews = keptViews(steppe)
  draftViews.delete(draft)
  draftViews.set(draft, kept)
  for (const old of [...draftViews.keys()].slice(0, -MOST_KEPT)) draftViews.delete(old)
  // What failed is tried again by whoever looks next.
  kept.view.catch(() => {
    if (draftViews.get(draft) === kept) draftViews.delete(draft)
  })
}

async function makeView(steppe: Steppe, draft: Draft, edit: number, live: PreparedStore): Promise<View> {
  const content = await readDraft(steppe.database, draft.id, edit)
  const slices = new Slices()
  const laid = await slices.run(layOver([...content.changes.values()], live.store))
  const prepared =
    laid.changes.length === 0 ? live : await slices.run(refreshInSteps(live, laid.store, laid.changes))
  const { changes, conflicts } = laid
  return {
    steppe,
    prepared,
    asOf: Math.max(edit, steppe.lastChangeSet),
    draft: { draft, known: content.changes, revisions: content.revisions, changes, conflicts, live },
    missing: null,
  }
}
