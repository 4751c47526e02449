import 'server-only'

import { settle, type Settlement } from '@/core/drafts/amend'
import { labelOf } from '@/core/store/references'
import { meansTheSame } from '@/core/store/same-meaning'
import { type Change, type RecordOfKind } from '@/core/store/store'
import { commit } from '../changes/commit'
import type { CommitNote, CommitOutcome } from '../changes/commit-outcome'
import { type ChangeRequest, weigh } from '../changes/weigh'
import type { Steppe } from '../engine/steppe'
import { revisionKey } from '../records/record-tables'
import { revisionOf, type View, type ViewedDraft } from '../views/view'
import { inDraft, writeDraft } from './commit-to-draft'
import { draftView } from './draft-view'

type Record_ = Pick<Change, 'kind' | 'id'>
type Author = Pick<CommitNote, 'author' | 'at'>

/**
 * Settles a conflict of a draft with what is live.
 *
 * Errors  as of `commit`; `nothing-to-change` where the draft says nothing of the record.
 */
export async function settleDraft(
  steppe: Steppe,
  code: string,
  record: Record_,
  settlement: Settlement,
  { author, at }: Author,
): Promise<CommitOutcome> {
  const found = await draftView(steppe, code)
  if (!found?.draft) return { ok: false, code: 'no-such-draft', draft: code }
  return inDraft(steppe, found.draft.draft.id, async () => {
    const view = await draftView(steppe, code)
    if (!view?.draft) return { ok: false, code: 'no-such-draft', draft: code }
    const known = view.draft.known.get(revisionKey(record))
    if (!known) return { ok: false, code: 'nothing-to-change' }
    const settled = settle(known, view.draft.live.store, settlement)
    const wanted = shownChange(view, known, settled)
    const weighed = meansTheSame(wanted.before, wanted.after)
      ? null
      : await weigh(view, [requestOf(view, wanted)])
    if (weighed && !weighed.ok && weighed.code !== 'nothing-to-change') return weighed
    const after = weighed?.ok ? weighed.after : view.prepared
    // As the store writes what was typed.
    const shown = (weighed?.ok && weighed.changes[0]) || wanted
    const change = settled && ({ ...settled, after: shown.after } as Change)
    const label = labelOf(shown.kind, (shown.after ?? shown.before ?? known.before) as never)
    const note = { author, at, note: `${label}: settled with live` }
    const changeSet = await writeDraft(view, [{ shown, change }], after, note, () => undefined)
    return { ok: true, changeSet, changes: [shown], before: view.prepared, after }
  })
}

/** Takes what a draft does to some records out of it again: they are as they are live. */
export async function takeOut(
  view: View & { readonly draft: ViewedDraft },
  records: readonly Record_[],
  { author, at }: Author,
): Promise<CommitOutcome> {
  const { store } = view.draft.live
  const requests = records.map(({ kind, id }) =>
    requestOf(view, { kind, id, before: null, after: store[kind].get(id) ?? null } as Change),
  )
  const note = `${records.length} ${records.length === 1 ? 'change' : 'changes'} removed`
  return commit(view, requests, { author, at, note })
}

/** What the draft shows of a record before and after its change becomes another one. */
function shownChange({ prepared, draft }: View, known: Change, change: Change | null): Change {
  const { kind, id } = known
  const shownNow = prepared.store[kind].get(id) ?? null
  const live = (draft?.live.store[kind].get(id) ?? null) as RecordOfKind[Change['kind']] | null
  return { kind, id, before: shownNow, after: change ? change.after : live } as Change
}

function requestOf(view: View, { kind, id, after }: Change): ChangeRequest {
  return { kind, id, seen: revisionOf(view, kind, id), after } as ChangeRequest
}
