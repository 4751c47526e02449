import { findOwnAmount, type ReferenceField, resolveValue } from '../../catalogue/product'
import { findConversion } from '../../currency/currency'
import { type Decimal, powerOfTen, scaleOf, toDigits } from '../../decimal/decimal'
import { type Fraction, multiplyFractions, toFraction } from '../../decimal/fraction'
import { type RoundingRule, roundPrice, toMinorUnit } from '../../decimal/rounding'
import type { Adjustment } from '../../price/adjustment'
import type { TaxBasis } from '../../price/based-amount'
import { getSettings } from '../../store/store'
import { aboveZero, adjustmentOperation, holdingItem, roundingOfLast } from '../amounts/adjust'
import { factorBetween, inBasis, percentOf, storeBasis } from '../amounts/basis'
import { factsOf } from '../items/catalogue-index'
import { feeOf, currencyViewInto } from '../context/currency-view'
import { applyOperation } from '../lists/operation'
import type { PreparedStore } from '../context/prepared-store'
import type { CurrencyView } from '../context/pricing-context'
import { shown } from '../amounts/shown'
import type { RateUsed, TraceStep } from './trace'

/** The steps to an amount; the engine's own fast way is not used, so that the two can be held against each other. */
export interface Explained {
  readonly steps: readonly TraceStep[]
  readonly amount: Decimal
  readonly basis: TaxBasis
}

/** Currency units in, currency units out. */
export const IN_UNITS = { source: 0, target: 0 }

/** How a reference amount came about in the currency of the currency view; `null` without one. */
export function explainReference(
  prepared: PreparedStore,
  currencyView: CurrencyView,
  field: ReferenceField,
  number: number,
): Explained | null {
  const { store } = prepared
  const home = getSettings(store).currency
  const stored =
    storedReference(prepared, field, number, currencyView.currency) ??
    (currencyView.currency === home ? null : storedReference(prepared, field, number, home))
  if (!stored) return null
  const adjustments = field === 'basePrice' ? currencyView.adjustments : []
  const look =
    stored.currency === currencyView.currency ? currencyView : currencyViewInto(prepared, currencyView, home)
  const adjusted = explainAdjustments(prepared, look, adjustments, number, stored, 'base')
  return look === currencyView ? adjusted : explainConversion(prepared, currencyView, home, adjusted)
}

interface StoredReference extends Explained {
  readonly currency: string
}

/** A reference amount as the merchant entered it in a currency; `null` where they did not. */
export function storedReference(
  prepared: PreparedStore,
  field: ReferenceField,
  number: number,
  currency: string,
): StoredReference | null {
  const { store, index } = prepared
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
  const basis = storeBasis(prepared)
  return {
    amount,
    basis,
    currency,
    steps: [{ kind: 'reference', field, amount, currency, basis, from, isOwn: !isHome }],
  }
}

/** What adjustments make of an amount; one that would leave nothing above zero is left out, and the step says so. */
export function explainAdjustments(
  prepared: PreparedStore,
  currencyView: CurrencyView,
  adjustments: readonly Adjustment[],
  number: number,
  before: Explained,
  target: 'base' | 'shown',
): Explained {
  const { store, index } = prepared
  const some = adjustments.length === 0 ? [] : holdingItem(adjustments, factsOf(store, index, number))
  if (some.length === 0) return before
  const { basis } = before
  const factor = factorBetween(prepared, currencyView, number, storeBasis(prepared), basis)
  const operations = some.map((each) => adjustmentOperation(prepared, currencyView, each, factor, IN_UNITS))
  const start = toFraction(before.amount)
  const kept = aboveZero(operations, start)
  const exact = operations.reduce<Fraction>(
    (value, operation, at) => (operation && kept[at] ? applyOperation(operation, value) : value),
    start,
  )
  const step: TraceStep = {
    kind: 'adjustments',
    target,
    applied: some.filter((_, at) => kept[at]).map(({ id, method }) => ({ adjustment: id, method })),
    leftOut: some.filter((_, at) => !kept[at]).map(({ id }) => id),
    amount: shown(exact),
    currency: currencyView.currency,
    basis,
  }
  const steps = [...before.steps, step]
  if (step.applied.length === 0) return { ...before, steps }
  const rule = roundingOfLast(some.filter((_, at) => kept[at]))
  return rounded(currencyView, { steps, basis }, exact, rule)
}

/** An amount of another currency in the currency of the currency view; `null` without a rate. */
export function explainConversion(
  { store }: PreparedStore,
  currencyView: CurrencyView,
  from: string,
  before: Explained,
): Explained | null {
  const conversion = findConversion(
    currencyView.rates,
    getSettings(store).currency,
    from,
    feeOf(store, currencyView.currency),
  )
  if (!conversion) return null
  const exact = multiplyFractions(toFraction(before.amount), conversion.factor)
  const rates = conversion.rates.map((rate): RateUsed => {
    const limit = store.currency.get(rate.currency)?.ageLimit ?? null
    const age = (currencyView.at - Date.parse(rate.from)) / 86_400_000
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
    currency: currencyView.currency,
    basis: before.basis,
  }
  return rounded(
    currencyView,
    { steps: [...before.steps, step], basis: before.basis },
    exact,
    currencyView.rounding,
  )
}

/**
 * An amount brought to the basis of the list that starts from it, exactly, with a step for it; the step shows as many
 * digits as steps do.
 */
export function explainBasis(
  prepared: PreparedStore,
  currencyView: CurrencyView,
  number: number,
  before: Explained,
  to: TaxBasis,
): { readonly steps: readonly TraceStep[]; readonly exact: Fraction } {
  if (before.basis === to) return { steps: before.steps, exact: toFraction(before.amount) }
  const exact = inBasis(prepared, currencyView, number, before, to)
  const percent = percentOf(prepared, currencyView, number)
  const step: TraceStep = {
    kind: 'basis',
    from: before.basis,
    percent,
    amount: shown(exact),
    currency: currencyView.currency,
    basis: to,
  }
  return { steps: [...before.steps, step], exact }
}

/** An exact amount after its rounding, with a step for the rounding where it changes anything, or for what is too large. */
export function rounded(
  { currency, digits }: Pick<CurrencyView, 'currency' | 'digits'>,
  { steps, basis }: Pick<Explained, 'steps' | 'basis'>,
  exact: Fraction,
  rounding: RoundingRule | null,
): Explained {
  const rule = rounding ?? toMinorUnit(digits)
  const once = roundPrice(exact, rule)
  const amount = scaleOf(once) <= digits ? once : roundPrice(toFraction(once), toMinorUnit(digits))
  if (toDigits(amount).coefficient * powerOfTen(digits - scaleOf(amount)) > BigInt(Number.MAX_SAFE_INTEGER))
    return { steps: [...steps, { kind: 'too-large', amount, currency, basis }], amount, basis }
  if (amount === shown(exact)) return { steps, amount, basis }
  return { steps: [...steps, { kind: 'rounding', rule, amount, currency, basis }], amount, basis }
}
