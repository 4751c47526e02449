'use server'

import { NUMBERS, TEXT } from '@/server/session/argument-shapes'
import { merchantAction } from '@/server/session/permit'
import { worstFirst } from '@/core/finding/find-findings'
import { readLocal } from '@/core/predicates/schedule-text'
import { toInstant } from '@/core/predicates/when'
import { type Change, getSettings } from '@/core/store/store'
import { commit } from '@/server/changes/commit'
import { toRefusal } from '@/server/changes/to-refusal'
import type { ChangeRequest } from '@/server/changes/weigh'
import { currentInstant } from '@/server/clock'
import { beginDraft } from '@/server/drafts/draft-rows'
import { viewOf } from '@/server/drafts/draft-view'
import { findingsOf } from '@/server/findings/findings'
import { mute, unmute } from '@/server/findings/mutes'
import { currentAuthor } from '@/server/session/author'
import { currentView } from '@/server/views/current-view'
import { revisionOf } from '@/server/views/view'
import { refusalSentence } from '@/ui/format/refusal-sentence'
import { refresh } from 'next/cache'
import { findingSentence, FIX_WORDS } from './finding-sentences'

export type FindingOutcome =
  | { readonly ok: true; readonly draft?: string; readonly changeSet?: number }
  | { readonly ok: false; readonly problem: string; readonly field?: 'until' | 'reason' }

const GONE = 'It is no longer found: somebody has put it right meanwhile. Reload the page.'
const LONGEST_REASON = 200

/**
 * Puts a finding right in the draft that is looked through, or in a new one: `cases` are the places of those to be put
 * right, all of them where it is left out.
 */
export const fixFinding = merchantAction(
  'drafts:edit',
  [TEXT, NUMBERS.allow(null)],
  async (key: string, cases: readonly number[] | null): Promise<FindingOutcome> => {
    const by = { author: await currentAuthor(), at: currentInstant() }
    const looked = await currentView()
    const finding = worstFirst(await findingsOf(looked)).find((each) => each.key === key)
    if (!finding) return { ok: false, problem: GONE }
    const wanted = finding.cases.filter((_, at) => cases === null || cases.includes(at))
    const changes = new Map<string, Change>()
    for (const change of wanted.flatMap(({ fix }) => fix)) {
      const place = `${change.kind}/${change.id}`
      changes.set(place, together(changes.get(place), change))
    }
    if (changes.size === 0) return { ok: false, problem: 'Choose at least one.' }
    const words = `${FIX_WORDS[finding.code] ?? 'Put right'}: ${wanted.length} ${findingSentence({ ...finding, count: wanted.length })}`
    const view = looked.draft
      ? looked
      : await viewOf(looked.steppe, await beginDraft(looked.steppe.database, { name: 'Put right', ...by }))
    const requests = [...changes.values()].map(({ kind, id, after }) => ({
      kind,
      id,
      seen: revisionOf(view, kind, id),
      after,
    })) as readonly ChangeRequest[]
    const outcome = await commit(view, requests, { ...by, note: words.slice(0, LONGEST_REASON) })
    if (!outcome.ok) return { ok: false, problem: refusalSentence(toRefusal(outcome)) }
    refresh()
    return { ok: true, draft: view.draft?.draft.code ?? '', changeSet: outcome.changeSet }
  },
)

/** A line that several cases take something out of loses all of it. */
function together(before: Change | undefined, next: Change): Change {
  if (before?.kind !== 'price-line' || next.kind !== 'price-line' || !before.after || !next.after) return next
  const kept = new Set(before.after.scope.include.map((term) => JSON.stringify(term)))
  const include = next.after.scope.include.filter((term) => kept.has(JSON.stringify(term)))
  if (include.length === 0) return { ...next, after: null }
  return { ...next, after: { ...next.after, scope: { ...next.after.scope, include } } }
}

/** Says nothing of a finding until a day; an empty day is for good. */
export const muteFinding = merchantAction(
  'drafts:edit',
  [TEXT, TEXT, TEXT],
  async (key: string, until: string, reason: string): Promise<FindingOutcome> => {
    const { steppe, prepared } = await currentView()
    const text = String(reason).trim().slice(0, LONGEST_REASON)
    if (text === '') return { ok: false, field: 'reason', problem: 'Say why, for whoever asks later.' }
    const local = readLocal(String(until))
    if (local === undefined) return { ok: false, field: 'until', problem: `“${until}” is not a valid date.` }
    const at = currentInstant()
    const instant = local === null ? null : new Date(toInstant(local, getSettings(prepared.store).timeZone))
    if (instant && instant <= at)
      return { ok: false, field: 'until', problem: 'That day is over. Choose a later one.' }
    await mute(steppe, {
      key: String(key).slice(0, 400),
      author: await currentAuthor(),
      at,
      until: instant,
      reason: text,
    })
    refresh()
    return { ok: true }
  },
)

/** Lets a finding be told of again. */
export const unmuteFinding = merchantAction(
  'drafts:edit',
  [TEXT],
  async (key: string): Promise<FindingOutcome> => {
    await unmute((await currentView()).steppe, String(key))
    refresh()
    return { ok: true }
  },
)
