'use server'

import { type Decimal, isPositive, parseDecimal, scaleOf } from '@/core/decimal/decimal'
import { typedAmount } from '@/core/decimal/written-amount'
import type { RepriceRow } from '@/core/reprice/reprice'
import { digitsOfTarget, placeKey, withAmount } from '@/core/reprice/reprice-target'
import type { RecordOfKind } from '@/core/store/store'
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
import { reprice } from './reprice-rows'
import { targetWords } from './reprice-choices'
import { parseReprice } from './reprice-url'

const GONE = 'One of these amounts is gone meanwhile. Reload to see the others; nothing was changed.'

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
  const { target } = read.rule
  const digits = digitsOfTarget(store, target)
  const wanted: { readonly row: RepriceRow; readonly value: Decimal }[] = []
  for (const row of (await reprice(looked, shown, read.rule)).rows) {
    const { now, next } = row
    const key = placeKey(row)
    if (out.has(key)) continue
    const own = typed[key]
    const value = own === undefined ? next : parseDecimal(typedAmount(own))
    if (own !== undefined && (value === null || !isPositive(value) || scaleOf(value) > digits))
      return {
        ok: false,
        problem: `“${own}” is no price above zero with at most ${digits} digits behind the point.`,
      }
    if (value !== null && value !== now) wanted.push({ row, value })
  }
  if (wanted.length === 0) return { ok: false, problem: 'No price changes by this rule.' }
  const view = looked.draft
    ? looked
    : await viewOf(looked.steppe, await beginDraft(looked.steppe.database, { name: 'Reprice', ...by }))
  const requests = new Map<string, ChangeRequest>()
  for (const { row, value } of wanted) {
    const { record: kind, id, at } = row
    const key = `${kind}/${id}`
    // A line has a row for each of its breaks.
    const record = (requests.get(key)?.after ?? view.prepared.store[kind].get(id)) as
      RecordOfKind['product' | 'variant' | 'price-line'] | undefined
    if (!record) return { ok: false, problem: GONE }
    const after = withAmount(record, target, at, value)
    requests.set(key, { kind, id, seen: revisionOf(view, kind, id), after } as ChangeRequest)
  }
  const note = `Reprice: ${targetWords(store, target)} ${shown.rule}${shown.rounding === '' ? '' : `, ${shown.rounding}`}, ${wanted.length} amounts`
  const outcome = await commit(view, [...requests.values()], { ...by, note: note.slice(0, 200) })
  if (!outcome.ok) return { ok: false, problem: refusalSentence(toRefusal(outcome)) }
  return {
    ok: true,
    draft: view.draft?.draft.code ?? '',
    changeSet: outcome.changeSet,
    count: outcome.changes.length,
  }
}
