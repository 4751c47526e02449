'use server'

import { TEXT, THING } from '@/server/session/argument-shapes'
import { merchantAction } from '@/server/session/permit'
import { commit } from '@/server/changes/commit'
import { revisionOf } from '@/server/views/view'
import { toRefusal } from '@/server/changes/to-refusal'
import { currentInstant } from '@/server/clock'
import { currentView } from '@/server/views/current-view'
import { currentAuthor } from '@/server/session/author'
import { refusalSentence } from '@/ui/format/refusal-sentence'
import { whatSentence } from '@/ui/format/rule-phrases'
import { refresh } from 'next/cache'
import { agreedRequests, holderOf } from './agreed-line'
import type { AgreedWith } from './party'
import { readLineRule, readLineScope } from './read-line'

export type AgreeOutcome =
  { readonly ok: true; readonly changeSet: number } | { readonly ok: false; readonly problem: string }

/** Agrees a price with a party: see `agreedRequests`. */
export const agreePrice = merchantAction(
  'drafts:edit',
  [THING, TEXT, TEXT],
  async (party: AgreedWith, what: string, rule: string): Promise<AgreeOutcome> => {
    const view = await currentView()
    const { store } = view.prepared
    const scope = readLineScope(store, what)
    if (!scope.ok) return scope
    const read = readLineRule(store, rule)
    if (!read.ok) return read
    const wanted = agreedRequests(view, { list: null, party, line: null }, scope.value, read.value)
    if (!wanted.ok) return wanted
    const outcome = await commit(view, wanted.requests, {
      author: await currentAuthor(),
      note: `${holderOf(store, party)?.name}: ${rule.trim()} agreed for ${whatSentence(scope.value, store)}`,
      at: currentInstant(),
    })
    if (!outcome.ok) return { ok: false, problem: refusalSentence(toRefusal(outcome)) }
    refresh()
    return { ok: true, changeSet: outcome.changeSet }
  },
)

/** Changes the rule of an agreed line; an empty rule removes it. */
export const changeAgreedLine = merchantAction(
  'drafts:edit',
  [TEXT, TEXT],
  async (line: string, rule: string): Promise<AgreeOutcome> => {
    const view = await currentView()
    const { store } = view.prepared
    const current = store['price-line'].get(line)
    if (!current)
      return { ok: false, problem: 'Somebody removed this line meanwhile. Reload to see the list as it is.' }
    const read = rule.trim() === '' ? null : readLineRule(store, rule)
    if (read && !read.ok) return read
    const request = {
      kind: 'price-line' as const,
      id: line,
      seen: revisionOf(view, 'price-line', line),
      after: read && { ...current, ...read.value },
    }
    const outcome = await commit(view, [request], {
      author: await currentAuthor(),
      note: read ? `Line changed to ${rule.trim()}` : 'Line removed',
      at: currentInstant(),
    })
    if (!outcome.ok) return { ok: false, problem: refusalSentence(toRefusal(outcome)) }
    refresh()
    return { ok: true, changeSet: outcome.changeSet }
  },
)
