import 'server-only'

import { type Decimal, isPositive, parseDecimal, scaleOf } from '@/core/decimal/decimal'
import { typedAmount } from '@/core/decimal/written-amount'
import type { RepriceRow } from '@/core/reprice/reprice'
import { digitsOfTarget, placeKey, type RepriceTarget, withAmount } from '@/core/reprice/reprice-target'
import type { RecordOfKind } from '@/core/store/store'
import { commit } from '@/server/changes/commit'
import type { CommitNote } from '@/server/changes/commit-outcome'
import { toRefusal } from '@/server/changes/to-refusal'
import type { ChangeRequest } from '@/server/changes/weigh'
import { currentInstant } from '@/server/clock'
import { beginDraft } from '@/server/drafts/draft-rows'
import { discardDraft } from '@/server/drafts/publish-draft'
import { viewOf } from '@/server/drafts/draft-view'
import { currentAuthor } from '@/server/session/author'
import { currentView } from '@/server/views/current-view'
import { revisionOf, type View } from '@/server/views/view'
import { refusalSentence } from '@/ui/format/refusal-sentence'
import Joi from 'joi'
import { readReprice } from './read-reprice'
import { reprice } from './reprice-rows'
import { targetWords } from './reprice-choices'
import type { RepriceOutcome, RepriceStep } from './reprice-progress'
import { parseReprice } from './reprice-url'

const GONE = 'One of these amounts is gone meanwhile. Reload to see the others; nothing was changed.'

/** What is to be put in. */
export interface RepriceWanted {
  /** The rule, as it stands in the address. */
  readonly fields: Readonly<Record<string, string>>
  /** Rows that stay as they are, by row key. */
  readonly leftOut: readonly string[]
  /** What was typed over the rule, by row key. */
  readonly typed: Readonly<Record<string, string>>
}

const SHAPE = Joi.object<RepriceWanted>({
  fields: Joi.object().pattern(Joi.string().max(40), Joi.string().allow('').max(2_000)).required(),
  leftOut: Joi.array().items(Joi.string().max(200)).required(),
  typed: Joi.object().pattern(Joi.string().max(200), Joi.string().max(100)).required(),
})

/** What was submitted; `null` where that is something else. */
export function parseWanted(value: unknown): RepriceWanted | null {
  const { error, value: wanted } = SHAPE.validate(value, { convert: false })
  return error ? null : wanted
}

/** Called between slices of the work with how many of how many records are done; throwing out of it calls all of it off. */
export type RepriceProgress = (progress: RepriceStep) => Promise<void> | void

/**
 * Puts what a rule comes to into the draft that is looked through, or into a new one: all of it or, where it is refused or
 * called off, nothing.
 */
export async function putIntoDraft(
  { fields, leftOut, typed }: RepriceWanted,
  onProgress: RepriceProgress = () => undefined,
): Promise<RepriceOutcome> {
  const shown = parseReprice(fields)
  const looked = await currentView()
  const { store } = looked.prepared
  const read = readReprice(store, shown)
  if (!read.ok) return read
  if (!read.rule) return { ok: false, problem: 'Say what becomes of the prices first.' }
  const out = new Set(leftOut)
  const { target } = read.rule
  const digits = digitsOfTarget(store, target)
  const wanted: WantedAmount[] = []
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
  const note = `Reprice: ${targetWords(store, target)} ${shown.rule}${shown.rounding === '' ? '' : `, ${shown.rounding}`}, ${wanted.length} amounts`
  const by = { author: await currentAuthor(), at: currentInstant(), note: note.slice(0, 200) }
  if (looked.draft) return write(looked, target, wanted, by, onProgress)
  const draft = await beginDraft(looked.steppe.database, { name: 'Reprice', ...by })
  let isWritten = false
  try {
    const outcome = await write(await viewOf(looked.steppe, draft), target, wanted, by, onProgress)
    isWritten = outcome.ok
    return outcome
  } finally {
    // Nobody asked for an empty draft.
    if (!isWritten) await discardDraft(looked.steppe, draft.code)
  }
}

interface WantedAmount {
  readonly row: RepriceRow
  readonly value: Decimal
}

async function write(
  view: View,
  target: RepriceTarget,
  wanted: readonly WantedAmount[],
  by: Pick<CommitNote, 'author' | 'at' | 'note'>,
  onProgress: RepriceProgress,
): Promise<RepriceOutcome> {
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
  const of = requests.size
  const outcome = await commit(view, [...requests.values()], by, (stage, done) =>
    onProgress({ stage, done, of }),
  )
  if (!outcome.ok) return { ok: false, problem: refusalSentence(toRefusal(outcome)) }
  return {
    ok: true,
    draft: view.draft?.draft.code ?? '',
    changeSet: outcome.changeSet,
    count: outcome.changes.length,
  }
}
