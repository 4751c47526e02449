import { findConversion } from '../../currency/currency'
import { compare, HUNDRED, negate } from '../../decimal/decimal'
import { type Fraction, multiplyFractions, toFraction } from '../../decimal/fraction'
import { type ItemFacts, matchWhat } from '../../predicates/what'
import type { Adjustment } from '../../price/adjustment'
import type { TaxBasis } from '../../price/based-amount'
import { getSettings } from '../../store/store'
import { factorBetween, storeBasis } from './basis'
import { factsOf } from '../items/catalogue-index'
import { feeOf } from '../context/currency-view'
import {
  addition,
  applyOperation,
  compose,
  IDENTITY,
  type Operation,
  percentFactor,
  scaling,
  type UnitDigits,
} from '../lists/operation'
import type { PreparedStore } from '../context/prepared-store'
import { compilePriceStep, leastSource, type PriceStep, runPriceStep } from '../lists/price-step'
import type { CurrencyView } from '../context/pricing-context'

/** Source and result in smallest units; `basis` is that of the price moved, since amounts have the store's. */
export type Adjuster = (source: number, number: number, digits: number, basis: TaxBasis) => number

/** Made once for the same adjustments under the same currency view. */
const ADJUSTERS = new WeakMap<PreparedStore, Map<string, Adjuster>>()

/**
 * What some adjustments make of a price: those that hold the item, one after the other exactly, and rounded once. One
 * that would bring it to zero or below is left out.
 */
export function adjustedBy(
  prepared: PreparedStore,
  currencyView: CurrencyView,
  adjustments: readonly Adjustment[],
): Adjuster {
  const made = ADJUSTERS.get(prepared) ?? new Map<string, Adjuster>()
  ADJUSTERS.set(prepared, made)
  const key = `${currencyView.key}/${adjustments.map(({ id }) => id).join()}`
  let adjuster = made.get(key)
  if (!adjuster) made.set(key, (adjuster = makeAdjuster(prepared, currencyView, adjustments)))
  return adjuster
}

interface Chain {
  readonly operations: readonly (Operation | null)[]
  /** `null` when one of them is never applied. */
  readonly step: PriceStep | null
  /** From this source on none of them is left out. */
  readonly least: number
}

function makeAdjuster(
  prepared: PreparedStore,
  currencyView: CurrencyView,
  adjustments: readonly Adjustment[],
): Adjuster {
  const { store, index } = prepared
  const chains = new Map<string, Chain>()
  const chainOf = (some: readonly Adjustment[], factor: Fraction | null, digits: number): Chain => {
    const key = `${some.map(({ id }) => id).join()}/${factor ? `${factor.numerator}:${factor.denominator}` : ''}`
    let chain = chains.get(key)
    if (!chain) {
      const same = { source: digits, target: digits }
      chain = toChain(
        some,
        some.map((each) => adjustmentOperation(prepared, currencyView, each, factor, same)),
        digits,
      )
      chains.set(key, chain)
    }
    return chain
  }
  return (source, number, digits, basis) => {
    const some = holdingItem(adjustments, factsOf(store, index, number))
    if (some.length === 0) return source
    const factor = factorBetween(prepared, currencyView, number, storeBasis(prepared), basis)
    const chain = chainOf(some, factor, digits)
    if (chain.step && source >= chain.least) return runPriceStep(chain.step, source)
    const kept = aboveZero(chain.operations, { numerator: BigInt(source), denominator: 1n })
    const rest = some.filter((_, at) => kept[at])
    const { step } = chainOf(rest, factor, digits)
    return step && rest.length > 0 ? runPriceStep(step, source) : source
  }
}

function toChain(
  some: readonly Adjustment[],
  operations: readonly (Operation | null)[],
  digits: number,
): Chain {
  let whole: Operation | null = IDENTITY
  let least = 0
  for (const operation of operations) {
    whole = whole && operation && compose(whole, operation)
    if (whole) least = Math.max(least, leastSource(whole))
  }
  return { operations, step: whole && compilePriceStep(whole, roundingOfLast(some), digits), least }
}

/**
 * What an adjustment does to a price; `null` for one that takes all of any price away. `factor` brings its amount,
 * which has the store's basis, to the basis of the price.
 */
export function adjustmentOperation(
  prepared: PreparedStore,
  currencyView: CurrencyView,
  { method }: Adjustment,
  factor: Fraction | null,
  digits: UnitDigits,
): Operation | null {
  if (method.kind === 'percent')
    return compare(method.percent, negate(HUNDRED)) <= 0
      ? null
      : scaling(percentFactor(method.percent), digits)
  const amount = amountInto(prepared, currencyView, toFraction(method.amount))
  return addition(factor ? multiplyFractions(amount, factor) : amount, digits)
}

/** Which of some operations, one after the other, leave something above zero: the others are left out. */
export function aboveZero(operations: readonly (Operation | null)[], source: Fraction): readonly boolean[] {
  let value = source
  return operations.map((operation) => {
    const next = operation && applyOperation(operation, value)
    if (!next || next.numerator <= 0n) return false
    value = next
    return true
  })
}

export function holdingItem(adjustments: readonly Adjustment[], facts: ItemFacts): readonly Adjustment[] {
  return adjustments.filter(({ scope }) => matchWhat(scope, facts).matches)
}

/** Of several adjustments the last one that has a rule says how the result is rounded. */
export function roundingOfLast(adjustments: readonly Adjustment[]) {
  return adjustments.findLast(({ rounding }) => rounding !== null)?.rounding ?? null
}

/** An adjustment's amount is in the store's currency; without a rate it moves nothing. */
function amountInto({ store }: PreparedStore, currencyView: CurrencyView, amount: Fraction): Fraction {
  const home = getSettings(store).currency
  if (currencyView.currency === home) return amount
  const conversion = findConversion(currencyView.rates, home, home, feeOf(store, currencyView.currency))
  return conversion ? multiplyFractions(amount, conversion.factor) : { numerator: 0n, denominator: 1n }
}
