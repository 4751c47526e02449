'use server'

import { isPositive, parseDecimal, scaleOf } from '@/core/decimal/decimal'
import { typedAmount } from '@/core/decimal/written-amount'
import { getSettings } from '@/core/store/store'
import { commit } from '@/server/changes/commit'
import { toRefusal } from '@/server/changes/to-refusal'
import type { ChangeRequest } from '@/server/changes/weigh'
import { currentInstant } from '@/server/clock'
import { beginDraft } from '@/server/drafts/draft-rows'
import { viewOf } from '@/server/drafts/draft-view'
import { asMerchant, currentAuthor } from '@/server/session/author'
import { currentView } from '@/server/views/current-view'
import { revisionOf } from '@/server/views/view'
import { refusalSentence } from '@/ui/format/refusal-sentence'
import { readReprice } from './read-reprice'
import { rowsOf } from './reprice-rows'
import { parseReprice, REPRICE_FIELDS } from './reprice-url'

export type RepriceOutcome =
  | { readonly ok: true; readonly draft: string; readonly changeSet: number; readonly count: number }
  | { readonly ok: false; readonly problem: string }

/**
 * Puts what a rule comes to into the draft that is looked through, or into a new one. `leftOut` are rows that stay as they
 * are, `typed` what was typed over the rule, both by row key.
 */
export async function putIntoDraft(
  fields: Readonly<Record<string, string>>,
  leftOut: readonly string[],
  typed: Readonly<Record<string, string>>,
): Promise<RepriceOutcome> {
  await asMerchant()
  const by = { author: await currentAuthor(), at: currentInstant() }
  const shown = parseReprice(fields)
  const looked = await currentView()
  const { store } = looked.prepared
  const read = readReprice(store, shown)
  if (!read.ok) return read
  if (!read.rule) return { ok: false, problem: 'Say what becomes of the prices first.' }
  const out = new Set(leftOut)
  const { priceDigits } = getSettings(store)
  const wanted: { kind: 'product' | 'variant'; id: string; value: string }[] = []
  for (const { record, id, now, next } of await rowsOf(looked, shown, read.rule)) {
    const key = `${record}/${id}`
    if (out.has(key)) continue
    const own = typed[key]
    const value = own === undefined ? next : parseDecimal(typedAmount(own))
    if (own !== undefined && (value === null || !isPositive(value) || scaleOf(value) > priceDigits))
      return {
        ok: false,
        problem: `“${own}” is no price above zero with at most ${priceDigits} digits behind the point.`,
      }
    if (value !== null && value !== now) wanted.push({ kind: record, id, value })
  }
  if (wanted.length === 0) return { ok: false, problem: 'No price changes by this rule.' }
  const view = looked.draft
    ? looked
    : await viewOf(looked.steppe, await beginDraft(looked.steppe.database, { name: 'Reprice', ...by }))
  const requests = wanted.map(({ kind, id, value }) => ({
    kind,
    id,
    seen: revisionOf(view, kind, id),
    after: { ...view.prepared.store[kind].get(id), [shown.field]: value },
  })) as unknown as readonly ChangeRequest[]
  const note = `Reprice: ${REPRICE_FIELDS[shown.field]} ${shown.rule}${shown.rounding === '' ? '' : `, ${shown.rounding}`}, ${wanted.length} amounts`
  const outcome = await commit(view, requests, { ...by, note: note.slice(0, 200) })
  if (!outcome.ok) return { ok: false, problem: refusalSentence(toRefusal(outcome)) }
  return {
    ok: true,
    draft: view.draft?.draft.code ?? '',
    changeSet: outcome.changeSet,
    count: outcome.changes.length,
  }
}
