'use server'

import { NUMBER, TEXT, THING } from '@/server/session/argument-shapes'
import { merchantAction } from '@/server/session/permit'
import type { Settlement } from '@/core/drafts/amend'
import { RECORD_KINDS, type RecordKind } from '@/core/issue/issue'
import { readInstant } from '@/core/predicates/instant'
import { getSettings } from '@/core/store/store'
import { undo, undoNote } from '@/server/changes/history'
import { toRefusal } from '@/server/changes/to-refusal'
import { currentInstant } from '@/server/clock'
import type { DraftView } from '@/server/drafts/draft-impact'
import { beginDraft } from '@/server/drafts/draft-rows'
import { armPublications } from '@/server/drafts/publication-jobs'
import {
  discardDraft,
  planDraft,
  publishDraft,
  type PublishOutcome,
  unplanDraft,
} from '@/server/drafts/publish-draft'
import { reverseIntoDraft } from '@/server/drafts/reverse'
import { settleDraft, takeOut } from '@/server/drafts/settle-draft'
import { getSteppe } from '@/server/engine/steppe'
import { requestAddress } from '@/server/session/request-address'
import { noteAudit } from '@/server/staff/audit'
import { findDoer } from '@/server/session/doer'
import { viewAs } from '@/server/views/view-as'
import { currentAuthor } from '@/server/session/author'
import { liveView } from '@/server/views/view'
import { getView } from '@/server/views/views'
import { refusalSentence } from '@/ui/format/refusal-sentence'
import { formatMoment } from '@/ui/format/instant'
import { refresh } from 'next/cache'

/** What came of it: the number of a change set, where one was made, or the code of a draft. */
export type DraftOutcome =
  | { readonly ok: true; readonly changeSet?: number; readonly draft?: string }
  | { readonly ok: false; readonly problem: string; readonly conflicts?: boolean }

const LONGEST_TEXT = 200

async function now() {
  return { author: await currentAuthor(), at: currentInstant() }
}

/** What whoever asks works with, where that is a part. */
async function workedWith() {
  return viewAs(await findDoer(), liveView(await getSteppe())).within ?? []
}

/** Begins a draft, empty. */
export const startDraft = merchantAction(
  'drafts:edit',
  [TEXT],
  async (name: string): Promise<DraftOutcome> => {
    const by = await now()
    const given = String(name).trim().slice(0, LONGEST_TEXT)
    if (given === '') return { ok: false, problem: 'Give it a name, such as “Spring”.' }
    const steppe = await getSteppe()
    const draft = await beginDraft(steppe.database, { name: given, ...by })
    steppe.sync()
    return { ok: true, draft: draft.code }
  },
)

/** Makes everything in a draft live now. */
export const publishNow = merchantAction(
  'drafts:publish',
  [TEXT, TEXT, TEXT],
  async (code: string, reason: string, override: string): Promise<DraftOutcome> => {
    const by = await now()
    const text = String(reason).trim().slice(0, LONGEST_TEXT)
    const steppe = await getSteppe()
    const outcome = await publishDraft(steppe, String(code), {
      ...by,
      reason: text,
      override: String(override).trim().slice(0, LONGEST_TEXT),
      within: await workedWith(),
    })
    if (!outcome.ok) return { ok: false, problem: await publishProblem(outcome) }
    await noteAudit(steppe.database, {
      ...{ kind: 'published', who: by.author, about: String(code), detail: `change ${outcome.changeSet}` },
      address: await requestAddress(),
    })
    refresh()
    return { ok: true, changeSet: outcome.changeSet }
  },
)

/** Plans a draft to be published by itself; the instant is ISO 8601. */
export const planPublication = merchantAction(
  'drafts:publish',
  [TEXT, TEXT, TEXT],
  async (code: string, instant: string, reason: string): Promise<DraftOutcome> => {
    const by = await now()
    const at = readInstant(String(instant))
    if (at === null) return { ok: false, problem: 'Choose a day and a time.' }
    const steppe = await getSteppe()
    const text = String(reason).trim().slice(0, LONGEST_TEXT)
    const outcome = await planDraft(steppe, String(code), new Date(at), { ...by, reason: text })
    if (!outcome.ok) return { ok: false, problem: await publishProblem(outcome) }
    await armPublications(steppe)
    refresh()
    return { ok: true, draft: outcome.draft.code }
  },
)

/** Takes the plan of a draft back. */
export const keepUnplanned = merchantAction(
  'drafts:publish',
  [TEXT],
  async (code: string): Promise<DraftOutcome> => {
    const draft = await unplanDraft(await getSteppe(), String(code))
    if (!draft) return gone(String(code))
    refresh()
    return { ok: true, draft: draft.code }
  },
)

/** Ends a draft with nothing of it live. */
export const discard = merchantAction('drafts:edit', [TEXT], async (code: string): Promise<DraftOutcome> => {
  if (!(await discardDraft(await getSteppe(), String(code)))) return gone(String(code))
  refresh()
  return { ok: true }
})

export interface RecordReference {
  readonly kind: RecordKind
  readonly id: string
}

/** Settles a conflict of a draft with live. */
export const settleConflict = merchantAction(
  'drafts:edit',
  [TEXT, THING, THING],
  async (code: string, record: RecordReference, settlement: Settlement): Promise<DraftOutcome> => {
    const by = await now()
    if (!isRecord(record)) return { ok: false, problem: 'Reload the page, and try again.' }
    const outcome = await settleDraft(await getSteppe(), String(code), record, settlement, by)
    if (!outcome.ok) return { ok: false, problem: refusalSentence(toRefusal(outcome)) }
    refresh()
    return { ok: true, changeSet: outcome.changeSet }
  },
)

/** Takes what a draft does to some records out of it. */
export const takeOutOfDraft = merchantAction(
  'drafts:edit',
  [TEXT, THING],
  async (code: string, records: readonly RecordReference[]): Promise<DraftOutcome> => {
    const by = await now()
    if (!Array.isArray(records) || !records.every(isRecord))
      return { ok: false, problem: 'Reload the page, and try again.' }
    const view = await getView(await getSteppe(), { kind: 'draft', code: String(code) })
    if (!view.draft) return gone(String(code))
    const outcome = await takeOut(view as DraftView, records, by)
    if (!outcome.ok) return { ok: false, problem: refusalSentence(toRefusal(outcome)) }
    refresh()
    return { ok: true, changeSet: outcome.changeSet }
  },
)

/** Takes a change of live back exactly; `conflicts` says that something of it has been changed again since. */
export const reverseChange = merchantAction(
  'drafts:publish',
  [NUMBER],
  async (changeSet: number): Promise<DraftOutcome> => {
    const by = await now()
    const live = liveView(await getSteppe())
    const outcome = await undo(live, Number(changeSet), {
      ...by,
      note: await undoNote(live, Number(changeSet)),
    })
    if (!outcome.ok)
      return {
        ok: false,
        problem: refusalSentence(toRefusal(outcome)),
        conflicts: outcome.code === 'stale',
      }
    refresh()
    return { ok: true, changeSet: outcome.changeSet }
  },
)

/** Begins a draft that takes a change of live back, with what has been changed again since to be settled in it. */
export const reverseInDraft = merchantAction(
  'drafts:edit',
  [NUMBER],
  async (changeSet: number): Promise<DraftOutcome> => {
    const by = await now()
    const draft = await reverseIntoDraft(await getSteppe(), Number(changeSet), by)
    return draft ? { ok: true, draft: draft.code } : { ok: false, problem: 'There is no such change.' }
  },
)

function isRecord(record: RecordReference): boolean {
  return RECORD_KINDS.includes(record?.kind) && typeof record.id === 'string'
}

function gone(code: string): DraftOutcome {
  return { ok: false, problem: refusalSentence({ code: 'no-such-draft', draft: code }) }
}

async function publishProblem(outcome: Exclude<PublishOutcome, { readonly ok: true }>): Promise<string> {
  if (outcome.code === 'conflicts')
    return `${outcome.count === 1 ? 'One change conflicts' : `${outcome.count} changes conflict`} with what is live by now. Settle ${outcome.count === 1 ? 'it' : 'them'} first; nothing was published.`
  if (outcome.code === 'proofs')
    return `It breaks ${outcome.names.length === 1 ? 'a proof' : `${outcome.names.length} proofs`}: ${outcome.names.join(', ')}. Change the draft, or say why it is published all the same; nothing was published.`
  if (outcome.code === 'own-work')
    return 'You changed things in this draft yourself, and in this store a second person publishes. Ask somebody who may publish; nothing was published.'
  if (outcome.code === 'past-instant') {
    const { timeZone } = getSettings(liveView(await getSteppe()).prepared.store)
    return `That time is over: it is ${formatMoment(outcome.now.getTime(), timeZone)}. Choose a later one, or publish now.`
  }
  if (outcome.code === 'nothing-to-change') return 'There is nothing in this draft that is not live already.'
  return refusalSentence(toRefusal(outcome))
}
