'use server'

import { TEXT, thingWith, TYPED } from '@/server/session/argument-shapes'
import { merchantAction } from '@/server/session/permit'
import { rateTable } from '@/core/currency/currency'
import { parseDecimal, type Decimal } from '@/core/decimal/decimal'
import { typedAmount } from '@/core/decimal/written-amount'
import { readLocal } from '@/core/predicates/schedule-text'
import { toInstant } from '@/core/predicates/when'
import { getSettings, type Store } from '@/core/store/store'
import { commit } from '@/server/changes/commit'
import { type ChangeRequest, weigh } from '@/server/changes/weigh'
import { revisionOf } from '@/server/views/view'
import { toRefusal } from '@/server/changes/to-refusal'
import { currentInstant } from '@/server/clock'
import { toRequestContext } from '@/server/engine/request-context'
import { currentView } from '@/server/views/current-view'
import { currentAuthor } from '@/server/session/author'
import { priceMoves, priceSide, summaryOf } from '@/sheet/effect/price-moves'
import { formatPercent } from '@/ui/format/amount'
import { refusalSentence } from '@/ui/format/refusal-sentence'
import { DEFAULT_VANTAGE } from '@/ui/frame/vantage-url'
import { refresh } from 'next/cache'
import { randomUUID } from 'node:crypto'
import { type ConvertedRow, convertedRows } from './load-currency'

/** A rate as it is typed; `from` empty is now. */
export interface RateInput {
  readonly currency: string
  readonly rate: string
  readonly from: string
}

const RATE = thingWith({ currency: TYPED, rate: TYPED, from: TYPED })

export type TriedRate =
  | { readonly ok: true; readonly summary: string; readonly rows: readonly ConvertedRow[] }
  | { readonly ok: false; readonly field: 'rate' | 'from'; readonly problem: string }

export type RateOutcome =
  | { readonly ok: true; readonly changeSet: number }
  | { readonly ok: false; readonly field: 'rate' | 'from'; readonly problem: string }

/** What a rate would move, with nothing written. */
export const tryRate = merchantAction('prices:look', [RATE], async (input: RateInput): Promise<TriedRate> => {
  const view = await currentView()
  const { prepared } = view
  const read = requestOf(prepared.store, input)
  if (!read.ok) return read
  const weighed = await weigh(view, [read.request])
  if (!weighed.ok) return { ok: false, field: 'rate', problem: refusalSentence(toRefusal(weighed)) }
  const before = toRequestContext(view, DEFAULT_VANTAGE, currentInstant().getTime())
  const after = toRequestContext({ ...view, prepared: weighed.after }, before.vantage, before.now)
  const at = Math.max(before.buyerContext.at, Date.parse(read.from))
  const look = { ...before.buyerContext, at, currency: input.currency }
  const sides = [
    priceSide(before.prepared, look, before.quantity),
    priceSide(after.prepared, look, before.quantity),
  ] as const
  const moves = summaryOf(await priceMoves(...sides))
  const table = rateTable(weighed.after.store['exchange-rate'].values(), at)
  const currency = prepared.store.currency.get(input.currency) ?? null
  const way = moves.rise >= moves.fall ? 'rise' : 'fall'
  return {
    ok: true,
    rows: await convertedRows(before, currency, currency, table),
    summary:
      moves.moved === 0
        ? 'No price moves.'
        : moves.appear === moves.moved
          ? `${moves.moved} prices can be shown in ${input.currency} then.`
          : `${moves.moved} prices ${way}${moves.mean === null ? '' : `, by ${formatPercent(moves.mean).replace(/^[−-]/, '')} on average`}.`,
  }
})

/** Adds a rate from now on, or from a coming day. */
export const setRate = merchantAction(
  'drafts:edit',
  [RATE],
  async (input: RateInput): Promise<RateOutcome> => {
    const view = await currentView()
    const { store } = view.prepared
    const read = requestOf(store, input)
    if (!read.ok) return read
    const outcome = await commit(view, [read.request], {
      author: await currentAuthor(),
      note: `Rate 1 ${getSettings(store).currency} = ${read.rate} ${input.currency}${input.from.trim() ? ` from ${input.from.trim()}` : ''}`,
      at: currentInstant(),
    })
    if (!outcome.ok) return { ok: false, field: 'rate', problem: refusalSentence(toRefusal(outcome)) }
    refresh()
    return { ok: true, changeSet: outcome.changeSet }
  },
)

/** Removes a rate: what was computed with it follows the one before. */
export const removeRate = merchantAction(
  'drafts:edit',
  [TEXT],
  async (id: string): Promise<string | null> => {
    const view = await currentView()
    const request: ChangeRequest = {
      kind: 'exchange-rate',
      id,
      seen: revisionOf(view, 'exchange-rate', id),
      after: null,
    }
    const outcome = await commit(view, [request], {
      author: await currentAuthor(),
      note: 'Rate removed',
      at: currentInstant(),
    })
    if (!outcome.ok) return refusalSentence(toRefusal(outcome))
    refresh()
    return null
  },
)

type ReadRate =
  | { readonly ok: true; readonly request: ChangeRequest; readonly rate: Decimal; readonly from: string }
  | { readonly ok: false; readonly field: 'rate' | 'from'; readonly problem: string }

function requestOf(store: Store, { currency, rate: typed, from: typedFrom }: RateInput): ReadRate {
  const rate = parseDecimal(typedAmount(typed))
  if (rate === null)
    return { ok: false, field: 'rate', problem: `“${typed.trim()}” is not a number. Type it like 0.86984.` }
  if (Number(rate) <= 0) return { ok: false, field: 'rate', problem: 'A rate must be above zero.' }
  const local = readLocal(typedFrom)
  if (local === undefined)
    return {
      ok: false,
      field: 'from',
      problem: `“${typedFrom.trim()}” is not a valid date. Type 1 March 2027.`,
    }
  const { timeZone, currency: per } = getSettings(store)
  const from = local === null ? currentInstant() : new Date(toInstant(local, timeZone))
  const after = {
    id: randomUUID(),
    currency,
    per,
    rate,
    from: from.toISOString(),
    source: 'manual' as const,
  }
  return {
    ok: true,
    rate,
    from: after.from,
    request: { kind: 'exchange-rate', id: after.id, seen: null, after },
  }
}
