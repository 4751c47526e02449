import {
  findOwnAmount,
  type Product,
  type ReferenceField,
  resolveValue,
  type Variant,
} from '../catalogue/product'
import { findConversion } from '../currency/currency'
import { type Decimal } from '../decimal/decimal'
import { toFraction } from '../decimal/fraction'
import { type ItemFacts, matchWhat } from '../predicates/what'
import type { Adjustment } from '../price/adjustment'
import { getSettings, priceDigitsOf, type Store } from '../store/store'
import { factsOf } from './catalogue-index'
import { conversionInto, feeOf, lensInto } from './lens'
import { addition, compose, IDENTITY, type Operation, percentFactor, scaling, toUnits } from './operation'
import type { Amounts } from './prepared-amounts'
import type { PreparedStore } from './prepared-store'
import { compilePriceStep, type PriceStep, runPriceStep } from './price-step'
import type { Lens } from './situation'

const UNKNOWN = -1

/** One amount, in the currency of the lens. */
export function amountAt(amounts: Amounts, number: number): number {
  const known = amounts.values[number] as number
  if (known !== UNKNOWN) return known
  return (amounts.values[number] = amounts.reckon(number))
}

/** All amounts at once, for sweeping. */
export function everyAmount(amounts: Amounts): Float64Array {
  const { values } = amounts
  if (!amounts.isComplete) {
    for (let number = 0; number < values.length; number += 1) amountAt(amounts, number)
    amounts.isComplete = true
  }
  return values
}

/**
 * A reference amount in the currency of the lens: set in it, else the store's amount converted; the base price
 * after adjustments.
 */
export function referenceAmounts(prepared: PreparedStore, field: ReferenceField, lens: Lens): Amounts {
  const { seen } = lens
  if (seen.prepared !== prepared) {
    seen.prepared = prepared
    seen.amounts = {}
  }
  return (seen.amounts[field] ??= findReferenceAmounts(prepared, field, lens))
}

function findReferenceAmounts(prepared: PreparedStore, field: ReferenceField, lens: Lens): Amounts {
  const home = getSettings(prepared.store).currency
  const adjust = field === 'basePrice' ? adjusterOfBase(prepared, lens) : null
  const isAtHome = lens.currency === home
  if (isAtHome && !adjust) return storedAmounts(prepared, field, home)
  return kept(prepared, `${field}/${lens.key}`, () => {
    if (isAtHome && adjust) {
      const stored = storedAmounts(prepared, field, home)
      return (number) => adjust(amountAt(stored, number), number, lens.digits)
    }
    const set = setsAny(prepared, field, lens.currency) ? storedAmounts(prepared, field, lens.currency) : null
    const atHome = referenceAmounts(prepared, field, lensInto(prepared, lens, home))
    const conversion = conversionInto(prepared, lens, home)
    return (number) => {
      const own = set ? amountAt(set, number) : Number.NaN
      if (own === own) return adjust ? adjust(own, number, lens.digits) : own
      return conversion ? runPriceStep(conversion, amountAt(atHome, number)) : Number.NaN
    }
  })
}

/** A reference amount only where it is set in the currency of the lens itself; `null` where nobody sets any. */
export function ownAmounts(prepared: PreparedStore, field: ReferenceField, lens: Lens): Amounts | null {
  const { store } = prepared
  if (lens.currency === getSettings(store).currency) return referenceAmounts(prepared, field, lens)
  if (!setsAny(prepared, field, lens.currency)) return null
  return kept(prepared, `own/${field}/${lens.key}`, () => {
    const adjust = field === 'basePrice' ? adjusterOfBase(prepared, lens) : null
    const stored = storedAmounts(prepared, field, lens.currency)
    return (number) => {
      const amount = amountAt(stored, number)
      return adjust ? adjust(amount, number, lens.digits) : amount
    }
  })
}

/** Whether any item sets an amount in a currency: often none does, and nothing need be looked up. */
export function setsAny(prepared: PreparedStore, field: ReferenceField, currency: string): boolean {
  const key = `${field}/${currency}`
  let found = prepared.setAmounts.get(key)
  if (found === undefined) {
    const { store } = prepared
    found =
      someValue(store.product, (product) => setsAmount(store, product, field, currency)) ||
      someValue(store.variant, (variant) => setsAmount(store, variant, field, currency)) ||
      (field === 'basePrice' && someValue(store.extra, ({ ownPrices }) => currency in ownPrices))
    prepared.setAmounts.set(key, found)
  }
  return found
}

function setsAmount(store: Store, item: Product | Variant, field: ReferenceField, currency: string): boolean {
  if (currency === getSettings(store).currency) return item[field] !== null
  return (item.ownAmounts[currency]?.[field] ?? null) !== null
}

function someValue<Value>(map: ReadonlyMap<string, Value>, test: (value: Value) => boolean): boolean {
  for (const value of map.values()) if (test(value)) return true
  return false
}

/** As stored: the store's own amount, or the one set in another currency. */
function storedAmounts(prepared: PreparedStore, field: ReferenceField, currency: string): Amounts {
  return kept(prepared, `${STORED}${field}/${currency}`, () => reckonStored(prepared, field, currency))
}

function reckonStored(
  { store, index }: PreparedStore,
  field: ReferenceField,
  currency: string,
): Amounts['reckon'] {
  const digits = priceDigitsOf(store, currency)
  const other = currency === getSettings(store).currency ? null : currency
  return (number) => {
    const id = index.items[number] as string
    const amount =
      number < index.variantCount
        ? storedOfVariant(store, id, field, other)
        : storedOfExtra(store, id, field, other)
    return amount === null ? Number.NaN : toUnits(amount, digits)
  }
}

const STORED = 'stored/'

function storedOfVariant(
  store: Store,
  id: string,
  field: ReferenceField,
  currency: string | null,
): Decimal | null {
  const variant = store.variant.get(id)
  const product = variant && store.product.get(variant.product)
  if (!variant || !product) return null
  return currency === null
    ? resolveValue(product, variant, field).value
    : findOwnAmount(product, variant, field, currency)
}

function storedOfExtra(
  store: Store,
  id: string,
  field: ReferenceField,
  currency: string | null,
): Decimal | null {
  const extra = store.extra.get(id)
  if (!extra) return null
  if (currency !== null) return field === 'basePrice' ? (extra.ownPrices[currency] ?? null) : null
  return field === 'basePrice' || field === 'cost' ? extra[field] : null
}

function kept(prepared: PreparedStore, key: string, make: () => Amounts['reckon']): Amounts {
  let amounts = prepared.amounts.get(key)
  if (!amounts) {
    if (prepared.amounts.size >= MOST_KEPT) dropOldest(prepared.amounts)
    const reckon = make()
    amounts = {
      values: new Float64Array(prepared.index.items.length).fill(UNKNOWN),
      reckon,
      isComplete: false,
    }
    prepared.amounts.set(key, amounts)
  }
  return amounts
}

/** Each holds a number an item; what is stored is never dropped, since everything starts from it. */
const MOST_KEPT = 128

function dropOldest(amounts: Map<string, Amounts>): void {
  for (const key of amounts.keys()) {
    if (key.startsWith(STORED)) continue
    amounts.delete(key)
    return
  }
}

type Adjuster = (source: number, number: number, digits: number) => number

/** Made once for the same adjustments under the same lens. */
const ADJUSTERS = new WeakMap<PreparedStore, Map<string, Adjuster>>()

/** What the adjustments of a lens make of an item's base price; `null` when there are none. */
function adjusterOfBase(prepared: PreparedStore, lens: Lens): Adjuster | null {
  return lens.adjustments.length === 0 ? null : adjustedBy(prepared, lens, lens.adjustments)
}

/**
 * What some adjustments make of a price: those that hold the item, one after the other exactly, and rounded once.
 * Source and result in smallest units of the lens's currency.
 */
export function adjustedBy(
  prepared: PreparedStore,
  lens: Lens,
  adjustments: readonly Adjustment[],
): Adjuster {
  const made = ADJUSTERS.get(prepared) ?? new Map<string, Adjuster>()
  ADJUSTERS.set(prepared, made)
  const key = `${lens.key}/${adjustments.map(({ id }) => id).join()}`
  let adjuster = made.get(key)
  if (!adjuster) made.set(key, (adjuster = makeAdjuster(prepared, lens, adjustments)))
  return adjuster
}

function makeAdjuster(
  { store, index }: PreparedStore,
  lens: Lens,
  adjustments: readonly Adjustment[],
): Adjuster {
  const steps = new Map<string, PriceStep>()
  return (source, number, digits) => {
    const facts = factsOf(store, index, number)
    const some = holdingItem(adjustments, facts)
    if (some.length === 0) return source
    const key = some.map(({ id }) => id).join()
    let step = steps.get(key)
    if (!step) steps.set(key, (step = adjustmentStep(store, lens, some, digits)))
    return runPriceStep(step, source)
  }
}

export function holdingItem(adjustments: readonly Adjustment[], facts: ItemFacts): readonly Adjustment[] {
  return adjustments.filter(({ scope }) => matchWhat(scope, facts).matches)
}

function adjustmentStep(
  store: Store,
  lens: Lens,
  adjustments: readonly Adjustment[],
  digits: number,
): PriceStep {
  const same = { source: digits, target: digits }
  const operation = adjustments.reduce<Operation>((before, { method }) => {
    if (method.kind === 'percent') return compose(before, scaling(percentFactor(method.percent), same))
    return compose(before, addition(amountInto(store, lens, method.amount), same))
  }, IDENTITY)
  return compilePriceStep(operation, roundingOfLast(adjustments), digits)
}

/** Of several adjustments the last one that has a rule says how the result is rounded. */
export function roundingOfLast(adjustments: readonly Adjustment[]) {
  return adjustments.findLast(({ rounding }) => rounding !== null)?.rounding ?? null
}

/** An adjustment's amount is in the store's currency; without a rate it moves nothing. */
export function amountInto(store: Store, lens: Lens, amount: Decimal) {
  const value = toFraction(amount)
  const home = getSettings(store).currency
  if (lens.currency === home) return value
  const conversion = findConversion(lens.rates, home, home, feeOf(store, lens.currency))
  if (!conversion) return { numerator: 0n, denominator: 1n }
  return {
    numerator: value.numerator * conversion.factor.numerator,
    denominator: value.denominator * conversion.factor.denominator,
  }
}

/**
 * The amounts that stay known when some items are edited, for the store after the edit. What is reckoned from
 * others is dropped; it is reckoned again for the items looked at.
 */
export function keepAmounts(
  before: PreparedStore,
  after: PreparedStore,
  touched: ReadonlySet<number>,
  edited: readonly (Product | Variant)[],
): void {
  for (const [key, amounts] of before.amounts) {
    if (!key.startsWith(STORED)) continue
    const [field, currency] = key.slice(STORED.length).split('/') as [ReferenceField, string]
    const values = touched.size === 0 ? amounts.values : amounts.values.slice()
    for (const number of touched) values[number] = UNKNOWN
    const isComplete = touched.size === 0 && amounts.isComplete
    after.amounts.set(key, { values, reckon: reckonStored(after, field, currency), isComplete })
  }
  for (const [key, isSet] of before.setAmounts) {
    const [field, currency] = key.split('/') as [ReferenceField, string]
    after.setAmounts.set(key, isSet || edited.some((item) => setsAmount(after.store, item, field, currency)))
  }
}

/** The store's own base prices, which nearly every price starts from. */
export function readBasePrices(prepared: PreparedStore): void {
  everyAmount(storedAmounts(prepared, 'basePrice', getSettings(prepared.store).currency))
}
