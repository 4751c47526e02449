import { findOwnAmount, type ReferenceField, resolveValue } from '../catalogue/product'
import { findConversion } from '../currency/currency'
import { type Decimal, isPositive, scaleOf, ZERO } from '../decimal/decimal'
import { type Fraction, toExactDecimal, toFraction } from '../decimal/fraction'
import { type RoundingRule, roundPrice, roundToDigits, toMinorUnit } from '../decimal/rounding'
import { matchWhat } from '../predicates/what'
import type { Adjustment } from '../price/adjustment'
import type { PriceReference } from '../price/price-method'
import { getSettings } from '../store/store'
import { amountInto, holdingItem, roundingOfLast } from './amounts'
import { factsOf } from './catalogue-index'
import { breakAt, type CompiledLine, type LineStep } from './compiled-line'
import type { CompiledList } from './compiled-list'
import { bracketQuantity, emptyListPrice, fieldOf, findInList, type Quantities } from './find-in-list'
import { feeOf, lensInto } from './lens'
import {
  addition,
  compose,
  IDENTITY,
  methodOperation,
  type Operation,
  percentFactor,
  scaling,
} from './operation'
import type { PreparedStore } from './prepared-store'
import { fromUnits } from './price-step'
import type { LadderEntry, Lens } from './situation'
import type { RateUsed, TraceStep } from './trace'

/** The steps to an amount; the engine's own fast way is not used, so that the two can be held against each other. */
export interface Explained {
  readonly steps: readonly TraceStep[]
  readonly amount: Decimal
}

/** Currency units in, currency units out. */
const IN_UNITS = { source: 0, target: 0 }
const SHOWN_DIGITS = 10

/** How a reference amount came about in the currency of the lens; `null` without one. */
export function explainReference(
  prepared: PreparedStore,
  lens: Lens,
  field: ReferenceField,
  number: number,
): Explained | null {
  const { store } = prepared
  const home = getSettings(store).currency
  const stored =
    storedReference(prepared, field, number, lens.currency) ??
    (lens.currency === home ? null : storedReference(prepared, field, number, home))
  if (!stored) return null
  const adjustments = field === 'basePrice' ? lens.adjustments : []
  const look = stored.currency === lens.currency ? lens : lensInto(prepared, lens, home)
  const { steps, amount } = explainAdjustments(prepared, look, adjustments, number, stored, 'base')
  if (amount === null) return null
  return look === lens ? { steps, amount } : explainConversion(prepared, lens, home, { steps, amount })
}

interface StoredReference extends Explained {
  readonly currency: string
}

function storedReference(
  { store, index }: PreparedStore,
  field: ReferenceField,
  number: number,
  currency: string,
): StoredReference | null {
  const id = index.items[number] as string
  const isHome = currency === getSettings(store).currency
  const extra = number < index.variantCount ? undefined : store.extra.get(id)
  const variant = store.variant.get(id)
  const product = variant && store.product.get(variant.product)
  let amount: Decimal | null = null
  let from: 'product' | 'variant' | 'extra' = 'extra'
  if (extra) {
    if (isHome) amount = field === 'basePrice' || field === 'cost' ? extra[field] : null
    else amount = field === 'basePrice' ? (extra.ownPrices[currency] ?? null) : null
  } else if (variant && product) {
    amount = isHome
      ? resolveValue(product, variant, field).value
      : findOwnAmount(product, variant, field, currency)
    const own = isHome ? variant[field] : (variant.ownAmounts[currency]?.[field] ?? null)
    from = own === null ? 'product' : 'variant'
  }
  if (amount === null) return null
  return {
    amount,
    currency,
    steps: [{ kind: 'reference', field, amount, currency, from, isOwn: !isHome }],
  }
}

/** What adjustments make of an amount; its amount is `null` when nothing above zero is left. */
export function explainAdjustments(
  { store, index }: PreparedStore,
  lens: Lens,
  adjustments: readonly Adjustment[],
  number: number,
  before: Explained,
  target: 'base' | 'shown',
): { readonly steps: readonly TraceStep[]; readonly amount: Decimal | null } {
  const some = adjustments.length === 0 ? [] : holdingItem(adjustments, factsOf(store, index, number))
  if (some.length === 0) return before
  const operation = some.reduce<Operation>(
    (chain, { method }) =>
      compose(
        chain,
        method.kind === 'percent'
          ? scaling(percentFactor(method.percent), IN_UNITS)
          : addition(amountInto(store, lens, method.amount), IN_UNITS),
      ),
    IDENTITY,
  )
  const exact = apply(operation, before.amount)
  const step: TraceStep = {
    kind: 'adjustments',
    target,
    applied: some.map(({ id, method }) => ({ adjustment: id, method })),
    amount: shown(exact),
    currency: lens.currency,
  }
  const steps = [...before.steps, step]
  if (exact.numerator <= 0n) return { steps, amount: null }
  return rounded(lens.currency, lens.digits, steps, exact, roundingOfLast(some))
}

/** An amount of another currency in the currency of the lens; `null` without a rate. */
function explainConversion(
  { store }: PreparedStore,
  lens: Lens,
  from: string,
  before: Explained,
): Explained | null {
  const conversion = findConversion(
    lens.rates,
    getSettings(store).currency,
    from,
    feeOf(store, lens.currency),
  )
  if (!conversion) return null
  const amount = toFraction(before.amount)
  const exact = {
    numerator: amount.numerator * conversion.factor.numerator,
    denominator: amount.denominator * conversion.factor.denominator,
  }
  const rates = conversion.rates.map((rate): RateUsed => {
    const limit = store.currency.get(rate.currency)?.ageLimit ?? null
    const age = (lens.at - Date.parse(rate.from)) / 86_400_000
    return {
      rate: rate.id,
      per: rate.per,
      currency: rate.currency,
      value: rate.rate,
      from: rate.from,
      isStale: limit !== null && age > limit,
    }
  })
  const step: TraceStep = {
    kind: 'conversion',
    from,
    rates,
    fee: conversion.fee,
    amount: shown(exact),
    currency: lens.currency,
  }
  return rounded(lens.currency, lens.digits, [...before.steps, step], exact, lens.rounding)
}

/**
 * How a line of a list came to its price in the currency of the lens; `null` when it gives none. `entry` is how
 * the list got onto the ladder, `null` for a list another one starts from.
 */
export function explainLine(
  prepared: PreparedStore,
  lens: Lens,
  compiled: CompiledList,
  position: number,
  number: number,
  quantities: Quantities,
  entry: LadderEntry | null,
): Explained | null {
  const line = compiled.line(position)
  const counted = quantities.counted?.(compiled, line, number) ?? quantities.own
  const reached = breakAt(line, counted)
  if (reached < 0) return null
  const explain = (at: number) =>
    explainBreak(prepared, lens, compiled, line, at, number, { quantities, counted, entry })
  if (!line.isGraduated || reached === 0) return explain(reached)
  const brackets: { quantity: Decimal; unit: Decimal }[] = []
  let last: Explained | null = null
  let total = 0n
  for (let at = 0; at <= reached; at += 1) {
    last = explain(at)
    if (!last) return null
    const quantity = bracketQuantity(line.froms, at, counted)
    if (quantity <= 0) continue
    brackets.push({ quantity: fromUnits(quantity, 3), unit: last.amount })
    const unit = toFraction(last.amount)
    total += (BigInt(quantity) * unit.numerator * 10n ** 12n) / unit.denominator
  }
  const exact = { numerator: total, denominator: BigInt(counted) * 10n ** 12n }
  const average = roundToDigits(exact, lens.digits, 'half-up')
  const amount = isPositive(average) ? average : toMinorUnit(lens.digits).step
  return {
    amount,
    steps: [...(last?.steps ?? []), { kind: 'brackets', brackets, amount, currency: lens.currency }],
  }
}

interface BreakSetting {
  readonly quantities: Quantities
  readonly counted: number
  readonly entry: LadderEntry | null
}

function explainBreak(
  prepared: PreparedStore,
  lens: Lens,
  compiled: CompiledList,
  line: CompiledLine,
  at: number,
  number: number,
  setting: BreakSetting,
): Explained | null {
  const step = line.steps[at] as LineStep
  const { currency } = compiled.list
  const within = (look: Lens, before: Explained | null, rule: RoundingRule | null) =>
    before && applyLine(prepared, look, compiled, line, at, number, setting, before, rule)
  if (currency === lens.currency || step.reference === null) {
    const look = lensInto(prepared, lens, currency)
    const own = within(look, startOf(prepared, look, compiled, step, number, setting), line.rounding)
    return own && currency !== lens.currency ? explainConversion(prepared, lens, currency, own) : own
  }
  if (step.isProportional && step.reference.kind !== 'list') {
    const field = fieldOf(step.reference)
    const isHome = lens.currency === getSettings(prepared.store).currency
    const set = storedReference(prepared, field, number, lens.currency)
    if (set || isHome) {
      const start = explainReference(prepared, lens, field, number)
      const own = within(lens, start, lens.rounding)
      if (own) return own
    }
  }
  const look = lensInto(prepared, lens, currency)
  const own = within(look, startOf(prepared, look, compiled, step, number, setting), line.rounding)
  return own && explainConversion(prepared, lens, currency, own)
}

/** What a line starts from, in the list's currency. */
function startOf(
  prepared: PreparedStore,
  look: Lens,
  compiled: CompiledList,
  { reference }: LineStep,
  number: number,
  { quantities }: BreakSetting,
): Explained | null {
  if (reference === null) return { amount: ZERO, steps: [] }
  if (reference.kind !== 'list') return explainReference(prepared, look, fieldOf(reference), number)
  return explainListReference(prepared, look, reference, number, quantities)
}

function explainListReference(
  prepared: PreparedStore,
  look: Lens,
  { list }: Extract<PriceReference, { kind: 'list' }>,
  number: number,
  quantities: Quantities,
): Explained | null {
  const source = prepared.lists.get(list)
  const found = emptyListPrice()
  if (!source || !findInList(prepared, look, source, number, quantities, found)) return null
  const inner = explainLine(prepared, look, source, found.line, number, quantities, null)
  if (!inner) return null
  return {
    amount: inner.amount,
    steps: [
      {
        kind: 'list-reference',
        list,
        amount: inner.amount,
        currency: look.currency,
        steps: inner.steps,
      },
    ],
  }
}

function applyLine(
  prepared: PreparedStore,
  look: Lens,
  compiled: CompiledList,
  line: CompiledLine,
  at: number,
  number: number,
  { counted, entry }: BreakSetting,
  before: Explained,
  rule: RoundingRule | null,
): Explained | null {
  const { method } = line.steps[at] as LineStep
  const exact =
    method.kind === 'fixed'
      ? toFraction(method.amount)
      : apply(methodOperation(method, IN_UNITS), before.amount)
  if (exact.numerator <= 0n) return null
  const match = line.line && matchWhat(line.line.scope, factsOf(prepared.store, prepared.index, number))
  const hasBreaks = line.froms.length > 1 || (line.froms[0] as number) > 0
  const step: TraceStep = {
    kind: 'line',
    at: { list: compiled.list.id, line: line.line?.id ?? null },
    audience: entry?.audience ?? null,
    contract: entry?.contract?.id ?? null,
    scope: match?.matches ? match.by : null,
    rung: entry?.rung ?? null,
    method,
    reached: hasBreaks
      ? {
          from: fromUnits(line.froms[at] as number, 3),
          counting: line.counting,
          counted: fromUnits(counted, 3),
        }
      : null,
    amount: shown(exact),
    currency: look.currency,
  }
  const steps = [...before.steps, step]
  if (method.kind === 'fixed') return { steps, amount: method.amount }
  return rounded(look.currency, look.digits, steps, exact, rule)
}

function apply({ numerator, addend, denominator }: Operation, amount: Decimal): Fraction {
  const source = toFraction(amount)
  return {
    numerator: source.numerator * numerator + addend * source.denominator,
    denominator: source.denominator * denominator,
  }
}

function rounded(
  currency: string,
  digits: number,
  steps: readonly TraceStep[],
  exact: Fraction,
  rounding: RoundingRule | null,
): Explained {
  const rule = rounding ?? toMinorUnit(digits)
  const once = roundPrice(exact, rule)
  const amount = scaleOf(once) <= digits ? once : roundPrice(toFraction(once), toMinorUnit(digits))
  if (amount === shown(exact)) return { steps, amount }
  return { steps: [...steps, { kind: 'rounding', rule, amount, currency }], amount }
}

function shown(exact: Fraction): Decimal {
  return toExactDecimal(exact) ?? roundToDigits(exact, SHOWN_DIGITS, 'half-even')
}
