import { findOwnAmount, type ReferenceField, resolveValue } from '../catalogue/product'
import { findConversion } from '../currency/currency'
import { type Decimal, scaleOf } from '../decimal/decimal'
import { type Fraction, toExactDecimal, toFraction } from '../decimal/fraction'
import { type RoundingRule, roundPrice, roundToDigits, toMinorUnit } from '../decimal/rounding'
import type { Adjustment } from '../price/adjustment'
import { getSettings } from '../store/store'
import { amountInto, holdingItem, roundingOfLast } from './amounts'
import { factsOf } from './catalogue-index'
import { feeOf, lensInto } from './lens'
import { addition, compose, IDENTITY, type Operation, percentFactor, scaling } from './operation'
import type { PreparedStore } from './prepared-store'
import type { Lens } from './situation'
import type { RateUsed, TraceStep } from './trace'

/** The steps to an amount; the engine's own fast way is not used, so that the two can be held against each other. */
export interface Explained {
  readonly steps: readonly TraceStep[]
  readonly amount: Decimal
}

/** Currency units in, currency units out. */
export const IN_UNITS = { source: 0, target: 0 }
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

/** A reference amount as the merchant entered it in a currency; `null` where they did not. */
export function storedReference(
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
export function explainConversion(
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

/** An operation on currency units, exactly. */
export function apply({ numerator, addend, denominator }: Operation, amount: Decimal): Fraction {
  const source = toFraction(amount)
  return {
    numerator: source.numerator * numerator + addend * source.denominator,
    denominator: source.denominator * denominator,
  }
}

/** An exact amount after its rounding, with a step for the rounding where it changes anything. */
export function rounded(
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

/** An exact amount as a step shows it: whole where it ends, else to ten digits. */
export function shown(exact: Fraction): Decimal {
  return toExactDecimal(exact) ?? roundToDigits(exact, SHOWN_DIGITS, 'half-even')
}
