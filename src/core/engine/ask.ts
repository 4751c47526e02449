import { findBuyerFacts } from '../buyers/buyer'
import { resolveValue } from '../catalogue/product'
import { type Decimal, isPositive } from '../decimal/decimal'
import { toFraction } from '../decimal/fraction'
import { roundPrice } from '../decimal/rounding'
import { matchWhat, type WhatTerm } from '../predicates/what'
import { type BuyerFacts, matchWho } from '../predicates/who'
import { getSettings } from '../store/store'
import { type CompiledList, findRow } from './compiled-list'
import { findLadder } from './prepare'
import type { LadderList, PreparedStore } from './prepared-store'
import { applyMethod, type PriceStep } from './price-step'
import type { Question, QuestionError } from './question'
import type { Answer, LineReference, Loser, LossReason, Trace, TraceStep, Winner } from './trace'

type Asked =
  { readonly ok: true; readonly value: Answer } | { readonly ok: false; readonly error: QuestionError }

/** One line of a list that reaches the item, and what it comes to. */
interface Tried {
  readonly at: LineReference
  readonly scope: WhatTerm | null
  readonly specificity: number
  readonly step: PriceStep
  /** Before rounding; `null` without a base price to start from. */
  readonly exact: Decimal | null
  /** `null` when the line gives no price. */
  readonly price: Decimal | null
}

/**
 * What one buyer pays for one variant, with every step and every candidate that lost.
 *
 * Errors  names the buyer or variant that does not exist. A variant without any price is an answer.
 * Holds   `unit` is the amount `findPrice` and `priceColumn` give.
 */
export function ask(prepared: PreparedStore, question: Question): Asked {
  const { store, index } = prepared
  const ladder = findLadder(prepared, question.buyer)
  const buyer = findBuyerFacts(store.group, store.account, question.buyer)
  if (!ladder || !buyer) return { ok: false, error: { code: 'unknown-buyer', buyer: question.buyer } }
  const number = index.numberOf.get(question.variant)
  if (number === undefined)
    return { ok: false, error: { code: 'unknown-variant', variant: question.variant } }

  const base = baseOf(prepared, question.variant)
  const tries = new Map<string, readonly Tried[]>()
  for (const compiled of prepared.lists.values())
    tries.set(compiled.list.id, tryLines(prepared, compiled, number, base.value))
  const triesOf = (list: CompiledList) => tries.get(list.list.id) as readonly Tried[]

  const won = findWinner(ladder, triesOf)
  const onLadder = ladder.flat()
  const losers = [
    ...onLadder.flatMap((entry) => lossesOnLadder(prepared, entry, triesOf(entry.compiled), won, number)),
    ...lossesOffLadder(prepared, onLadder, buyer, triesOf),
  ]
  const trace: Trace = { winner: toWinner(won, base), steps: stepsOf(won, base), losers }
  const unit = won ? won.line.price : base.value
  return { ok: true, value: { unit, currency: getSettings(store).currency, trace } }
}

interface Won {
  readonly entry: LadderList
  readonly line: Tried
}

type Base = ReturnType<typeof resolveValue>

function baseOf({ store }: PreparedStore, variantId: string): Base {
  const variant = store.variant.get(variantId)
  const product = variant && store.product.get(variant.product)
  return variant && product ? resolveValue(product, variant, 'basePrice') : { value: null, from: 'none' }
}

/** The lines of a list that reach a variant, most specific first. */
function tryLines(
  prepared: PreparedStore,
  compiled: CompiledList,
  number: number,
  base: Decimal | null,
): readonly Tried[] {
  const { rows, key } = findRow(compiled, prepared.index, number)
  const tried: Tried[] = []
  for (let at = rows.starts[key] as number; at < (rows.starts[key + 1] as number); at += 1) {
    const position = rows.lines[at] as number
    const line = compiled.lines[position]
    const step = compiled.steps[position] as PriceStep
    const exact = step.method.kind === 'fixed' ? step.method.amount : base && applyMethod(step.method, base)
    const match =
      line &&
      matchWhat(line.scope, prepared.index.facts[number] as NonNullable<(typeof prepared.index.facts)[0]>)
    tried.push({
      at: { list: compiled.list.id, line: line?.id ?? null },
      scope: match?.matches ? match.by : null,
      specificity: rows.specificities[at] as number,
      step,
      exact,
      price: priceOf(step, exact),
    })
  }
  return tried
}

function priceOf({ method, rule }: PriceStep, exact: Decimal | null): Decimal | null {
  if (exact === null || !isPositive(exact)) return null
  return method.kind === 'fixed' ? exact : roundPrice(toFraction(exact), rule)
}

function findWinner(
  ladder: readonly (readonly LadderList[])[],
  triesOf: (list: CompiledList) => readonly Tried[],
): Won | null {
  for (const step of ladder) {
    let best: Won | null = null
    for (const entry of step) {
      const line = triesOf(entry.compiled).find(({ price }) => price !== null)
      if (line && (best === null || line.specificity > best.line.specificity)) best = { entry, line }
    }
    if (best) return best
  }
  return null
}

function toWinner(won: Won | null, base: Base): Winner {
  if (won) return { kind: 'list', at: won.line.at }
  return { kind: base.value === null ? 'none' : 'base' }
}

function stepsOf(won: Won | null, base: Base): readonly TraceStep[] {
  const start: readonly TraceStep[] =
    base.value === null ? [] : [{ kind: 'base', amount: base.value, from: base.from }]
  if (!won) return start
  const { entry, line } = won
  const { method, rule } = line.step
  const exact = line.exact as Decimal
  const step: TraceStep = {
    kind: 'line',
    at: line.at,
    audience: entry.audience,
    scope: line.scope,
    rung: entry.rung,
    method,
    amount: exact,
  }
  if (method.kind === 'fixed') return [step]
  const rounded = line.price as Decimal
  return [
    ...start,
    step,
    ...(rounded === exact ? [] : [{ kind: 'rounding', rule, amount: rounded } as const]),
  ]
}

/** What did not decide in a list of the buyer's ladder: single lines of the winning list, else the list as a whole. */
function lossesOnLadder(
  prepared: PreparedStore,
  entry: LadderList,
  tried: readonly Tried[],
  won: Won | null,
  number: number,
): readonly Loser[] {
  const list = entry.compiled.list.id
  const isWinner = won?.entry === entry
  const failed = tried.filter(({ price }) => price === null).map((line) => toLoser(line, whyNoPrice(line)))
  if (isWinner) {
    const beaten = tried.filter((line) => line !== won.line && line.price !== null)
    return [...failed, ...beaten.map((line) => toLoser(line, whyLaterLine(line, won.line)))]
  }
  const best = tried.find(({ price }) => price !== null)
  if (!best) return failed.length > 0 ? failed : [noLine(prepared, entry.compiled, number)]
  if (!won) throw new RangeError(`list ${list} has a price and did not win`)
  return [toLoser(best, whyLaterList(entry, best, won))]
}

function lossesOffLadder(
  { lists }: PreparedStore,
  onLadder: readonly LadderList[],
  buyer: BuyerFacts,
  triesOf: (list: CompiledList) => readonly Tried[],
): readonly Loser[] {
  const standing = new Set(onLadder.map(({ compiled }) => compiled.list.id))
  return [...lists.values()]
    .filter(({ list }) => !standing.has(list.id))
    .sort((left, right) => (left.list.code < right.list.code ? -1 : 1))
    .map((compiled) => {
      const match = matchWho(compiled.list.audience, buyer)
      const best = triesOf(compiled).find(({ price }) => price !== null)
      return {
        at: best?.at ?? { list: compiled.list.id, line: null },
        reason: match.matches ? { code: 'off' } : { code: 'not-for-buyer', match },
        price: best?.price ?? null,
      }
    })
}

function toLoser({ at, price }: Tried, reason: LossReason): Loser {
  return { at, reason, price }
}

function whyNoPrice({ exact }: Tried): LossReason {
  return exact === null ? { code: 'no-base-price' } : { code: 'not-above-zero', amount: exact }
}

function whyLaterLine(line: Tried, winner: Tried): LossReason {
  const code = line.specificity < winner.specificity ? 'less-specific-line' : 'later-line'
  return { code, than: winner.at }
}

function whyLaterList(entry: LadderList, line: Tried, won: Won): LossReason {
  if (entry.rung !== won.entry.rung) return { code: 'lower-rung', rung: entry.rung, winner: won.entry.rung }
  const { rank } = entry.compiled.list
  const winner = won.entry.compiled.list.rank
  if (rank !== winner) return { code: 'later-rank', rank, winner }
  const code = line.specificity < won.line.specificity ? 'less-specific-list' : 'later-code'
  return { code, winner: won.line.at }
}

/** That a list says nothing about an item, or that one of its lines leaves the item out by name. */
function noLine({ index }: PreparedStore, { list, excluding }: CompiledList, number: number): Loser {
  const facts = index.facts[number]
  for (const line of facts ? excluding : []) {
    const match = matchWhat(line.scope, facts as NonNullable<typeof facts>)
    if (!match.matches && match.because === 'excluded') {
      return {
        at: { list: list.id, line: line.id },
        reason: { code: 'excluded-item', by: match.by },
        price: null,
      }
    }
  }
  return { at: { list: list.id, line: null }, reason: { code: 'no-line' }, price: null }
}
