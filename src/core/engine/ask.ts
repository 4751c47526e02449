import { compare, type Decimal, multiply, ZERO } from '../decimal/decimal'
import { addFractions, type Fraction, multiplyFractions, toFraction } from '../decimal/fraction'
import { matchWhat } from '../predicates/what'
import { factsOf } from './items/catalogue-index'
import { type CompiledLine, quantityUnits } from './lists/compiled-line'
import type { CompiledList } from './lists/compiled-list'
import { findComparedPrice } from './price/compared-price'
import { addExtras, basedPrice, type WithExtras } from './price/add-extras'
import { findExactUnit } from './price/exact-unit'
import { explainFound } from './explain/explain-found'
import { shown } from './amounts/shown'
import { explainLimits, explainRights } from './explain/explain-terms'
import { findIdleAdjustments } from './explain/find-idle-adjustments'
import type { Quantities } from './price/find-in-list'
import { findLosers } from './explain/find-losers'
import { findPrice } from './price/find-price'
import type { FoundPrice } from './context/found-price'
import { NO_FACTS } from '../promotions/facts'
import { type ItemPromotions, openItemPromotions } from './promoted/item-promotions'
import { promotedAmount } from './promoted/promoted-answer'
import { promotedPrice } from './promoted/promoted-price'
import { findLimits } from './rules/find-limits'
import { findRights } from './rules/find-rights'
import { taxPrice } from './rules/find-tax'
import { openPricingContextExactly } from './price/open-pricing-context'
import type { PreparedStore } from './context/prepared-store'
import { fromUnits, toPrice } from './lists/price-step'
import type { PricingContext } from './context/pricing-context'
import type { BasketLine, Question, QuestionError } from './context/buyer-context'
import { wholeOf } from './context/narrowed'
import type { Answer, BreakRow, ExplainedAnswer, LineReference, Trace, Winner } from './explain/trace'

type AskResult<Value> =
  { readonly ok: true; readonly value: Value } | { readonly ok: false; readonly error: QuestionError }

/**
 * What one buyer pays for one variant, with every step and every candidate that lost.
 *
 * Errors  as `answer`.
 */
export function ask(asked: PreparedStore, question: Question): AskResult<ExplainedAnswer> {
  const prepared = wholeOf(asked)
  const opened = openQuestion(prepared, question)
  if (!opened.ok) return opened
  const { pricingContext, number, quantities, main, extras } = opened.value
  const answered = toAnswer(prepared, question, opened.value)
  const { limits } = answered
  const deciding = [
    ...Object.values(limits.setBy).flatMap((source) => (source.kind === 'rule' ? [source.rule] : [])),
    ...limits.together.map(({ id }) => id),
  ]
  const traceOf = (item: number, found: FoundPrice) =>
    toTrace(prepared, pricingContext, item, quantities, found)
  return {
    ok: true,
    value: {
      ...answered,
      accessRules: explainRights(prepared, pricingContext, number),
      limitRules: explainLimits(prepared, pricingContext, number, new Set(deciding)),
      extras: answered.extras.map((extra, at) => {
        const { number: item, found } = extras[at] as FoundItem
        return { ...extra, trace: traceOf(item, found) }
      }),
      trace: traceOf(number, main),
    },
  }
}

/**
 * What one buyer pays for one variant, without the reasons: these cost far more than the answer.
 *
 * Errors  names the buyer, variant, extra, channel or currency that does not exist, or a quantity not above zero.
 *         A variant without any price is an answer.
 * Holds   `item` is the amount `findPrice` and `priceColumn` give.
 */
export function answer(asked: PreparedStore, question: Question): AskResult<Answer> {
  const prepared = wholeOf(asked)
  const opened = openQuestion(prepared, question)
  return opened.ok ? { ok: true, value: toAnswer(prepared, question, opened.value) } : opened
}

interface FoundItem {
  readonly number: number
  readonly found: FoundPrice
}

interface OpenQuestion {
  readonly pricingContext: PricingContext
  readonly number: number
  readonly quantities: Quantities
  readonly main: FoundPrice
  /** In the order they were asked for. */
  readonly extras: readonly FoundItem[]
  readonly promotions: ItemPromotions
}

function openQuestion(prepared: PreparedStore, question: Question): AskResult<OpenQuestion> {
  const { index, store } = prepared
  const opened = openPricingContextExactly(prepared, question)
  if (!opened.ok) return opened
  const pricingContext = opened.value
  const number = index.numberOf.get(question.variant)
  if (number === undefined || number >= index.variantCount)
    return { ok: false, error: { code: 'unknown-variant', variant: question.variant } }
  if (compare(question.quantity, ZERO) <= 0)
    return { ok: false, error: { code: 'quantity-not-positive', quantity: question.quantity } }
  const facts = factsOf(store, index, number)
  const missing = question.extras.find((id) => {
    const extra = store.extra.get(id)
    return extra?.status !== 'active' || !matchWhat(extra.scope, facts).matches
  })
  if (missing !== undefined) return { ok: false, error: { code: 'unknown-extra', extra: missing } }

  const quantities = quantitiesOf(prepared, question)
  const main = findPrice(prepared, pricingContext, number, quantities)
  const extras = question.extras.map((id): FoundItem => {
    const item = index.numberOf.get(id) as number
    return { number: item, found: findPrice(prepared, pricingContext, item, quantities) }
  })
  const promotions = openItemPromotions(
    prepared,
    pricingContext,
    question.at,
    question.promotions === undefined ? NO_FACTS : question.promotions,
  )
  return { ok: true, value: { pricingContext, number, quantities, main, extras, promotions } }
}

function toAnswer(
  prepared: PreparedStore,
  question: Question,
  { pricingContext, number, quantities, main, extras, promotions }: OpenQuestion,
): Answer {
  const { basis } = main
  const withExtras = addExtras(
    prepared,
    pricingContext,
    number,
    main,
    extras.map(({ found }) => found),
  )
  const unit = withExtras?.unit ?? null
  const access = findRights(prepared, pricingContext, number)
  const exact = findExactUnit(prepared, pricingContext, number, quantities, main)
  return {
    currency: pricingContext.currency,
    currencyFrom: pricingContext.currencyFrom,
    see: access.see,
    seePrice: access.seePrice && unit !== null,
    buy: access.buy && unit !== null,
    quote: access.quote,
    because: access.because ?? (unit === null ? { code: 'no-price' } : null),
    access,
    limits: findLimits(prepared, pricingContext, number),
    tax: unit && taxPrice(prepared, pricingContext, number, { amount: unit, basis }),
    unit,
    basis,
    item: toPrice(main.units, pricingContext.digits),
    entry: main.entry,
    extras: question.extras.map((extra, at) => ({
      extra,
      unit: basedPrice((extras[at] as FoundItem).found, pricingContext.digits),
    })),
    total: withExtras && totalOf(withExtras, exact?.unit ?? null, question.quantity),
    was: findComparedPrice(prepared, pricingContext, question, number, quantities),
    promoted:
      unit &&
      promotedAmount(promotions, question, number, quantities, main, unit, exactWith(withExtras, exact)),
    breaks: breaksOf(promotions, number),
  }
}

function toTrace(
  prepared: PreparedStore,
  pricingContext: PricingContext,
  number: number,
  quantities: Quantities,
  found: FoundPrice,
): Trace {
  const { entry, line } = found
  const steps = explainFound(prepared, pricingContext, number, quantities, found)
  const won = entry && { entry, line, units: found.unadjusted }
  const losers = findLosers(prepared, pricingContext, number, quantities, won)
  const idleAdjustments = findIdleAdjustments(
    prepared,
    pricingContext,
    number,
    entry?.contract ?? null,
    steps,
  )
  return { winner: winnerOf(found), policy: pricingContext.policy, steps, losers, idleAdjustments }
}

function winnerOf({ entry, line, units }: FoundPrice): Winner {
  if (!entry) return { kind: Number.isNaN(units) ? 'none' : 'base' }
  return { kind: 'list', at: referenceTo(entry.compiled, line), contract: entry.contract?.id ?? null }
}

function referenceTo(compiled: CompiledList, position: number): LineReference {
  return { list: compiled.list.id, line: compiled.line(position).line?.id ?? null }
}

/** What is bought, and how lines count what is bought with it. */
function quantitiesOf(prepared: PreparedStore, { variant, quantity, basket }: Question): Quantities {
  const own = quantityUnits(quantity)
  if (basket.length === 0) return { own, counted: null }
  const { store, index } = prepared
  const number = index.numberOf.get(variant) as number
  const counted = (compiled: CompiledList, line: CompiledLine, item: number): number => {
    if (line.counting === 'variant' || item !== number) return own
    return basket.reduce(
      (total, other) => (isCounted(compiled, line, other) ? total + quantityUnits(other.quantity) : total),
      own,
    )
  }
  const isCounted = (compiled: CompiledList, line: CompiledLine, other: BasketLine): boolean => {
    const at = index.numberOf.get(other.variant)
    if (at === undefined || at === number) return false
    if (line.counting === 'product')
      return store.variant.get(other.variant)?.product === store.variant.get(variant)?.product
    return line.line
      ? compiled.layout.holds(at) && matchWhat(line.line.scope, factsOf(store, index, at)).matches
      : compiled.layout.holds(at)
  }
  return { own, counted }
}

/** One piece with its extras exactly; `null` where the price is a whole number of units. */
function exactWith(
  withExtras: WithExtras | null,
  exact: { readonly unit: Fraction } | null,
): Fraction | null {
  return withExtras && exact && addFractions(exact.unit, withExtras.extras)
}

/** What everything comes to, before it is rounded to what can be paid. */
function totalOf({ unit, extras }: WithExtras, exact: Fraction | null, quantity: Decimal): Decimal {
  if (!exact) return multiply(unit, quantity)
  return shown(multiplyFractions(addFractions(exact, extras), toFraction(quantity)))
}

/** What the buyer pays from which quantity on: where any list of theirs has a break and the price moves. */
function breaksOf(promotions: ItemPromotions, number: number): readonly BreakRow[] {
  const { prepared, pricingContext } = promotions
  const { digits } = pricingContext
  const froms = new Set<number>([1000])
  for (const { compiled } of pricingContext.ladder.flat()) {
    if (!compiled.hasBreaks || !compiled.layout.holds(number)) continue
    for (const { line } of compiled.layout.candidates(number))
      for (const from of compiled.line(line).froms) if (from > 0) froms.add(from)
  }
  const rows: BreakRow[] = []
  for (const from of [...froms].sort((left, right) => left - right)) {
    const found = findPrice(prepared, pricingContext, number, { own: from, counted: null })
    const { units, basis } = found
    if (Number.isNaN(units)) continue
    const unit = fromUnits(units, digits)
    const before = rows.at(-1)
    if (before?.unit === unit && before.basis === basis) continue
    const after = promotedPrice(promotions, number, found)
    rows.push({ from: fromUnits(from, 3), unit, basis, promoted: after && basedPrice(after, digits) })
  }
  return rows.length > 1 ? rows : []
}
