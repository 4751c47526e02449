import {
  findOwnAmount,
  type Product,
  type ReferenceField,
  resolveValue,
  type Variant,
} from '../../catalogue/product'
import { type Decimal } from '../../decimal/decimal'
import { getSettings, priceDigitsOf, type Store } from '../../store/store'
import { adjustedBy, type Adjuster } from './adjust'
import { storeBasis } from './basis'
import { wholeOf } from '../context/narrowed'
import { conversionInto, currencyViewInto } from '../context/currency-view'
import { toUnits } from '../lists/operation'
import type { Amounts } from '../context/prepared-amounts'
import type { PreparedStore } from '../context/prepared-store'
import { runPriceStep } from '../lists/price-step'
import type { CurrencyView } from '../context/pricing-context'

const UNKNOWN = -1

/** One amount, in the currency of the currency view. */
export function amountAt(amounts: Amounts, number: number): number {
  const known = amounts.values[number] as number
  if (known !== UNKNOWN) return known
  return (amounts.values[number] = amounts.compute(number))
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
 * A reference amount in the currency of the currency view: set in it, else the store's amount converted; the base price
 * after adjustments.
 */
export function referenceAmounts(
  asked: PreparedStore,
  field: ReferenceField,
  currencyView: CurrencyView,
): Amounts {
  const prepared = wholeOf(asked)
  const { seen } = currencyView
  if (seen.prepared !== prepared) {
    seen.prepared = prepared
    seen.amounts = {}
  }
  return (seen.amounts[field] ??= findReferenceAmounts(prepared, field, currencyView))
}

/** A reference amount to be shown: where costs are hidden, there are none. */
export function shownAmounts(
  prepared: PreparedStore,
  field: ReferenceField,
  currencyView: CurrencyView,
): Amounts {
  if (field !== 'cost' || !prepared.hidesCosts) return referenceAmounts(prepared, field, currencyView)
  const count = prepared.index.items.length
  return { values: new Float64Array(count).fill(Number.NaN), compute: () => Number.NaN, isComplete: true }
}

function findReferenceAmounts(
  prepared: PreparedStore,
  field: ReferenceField,
  currencyView: CurrencyView,
): Amounts {
  const home = getSettings(prepared.store).currency
  const adjust = field === 'basePrice' ? adjusterOfBase(prepared, currencyView) : null
  const isAtHome = currencyView.currency === home
  if (isAtHome && !adjust) return storedAmounts(prepared, field, home)
  return kept(prepared, `${field}/${currencyView.key}`, () => {
    if (isAtHome && adjust) {
      const stored = storedAmounts(prepared, field, home)
      return (number) => adjusted(adjust, prepared, currencyView, number, amountAt(stored, number))
    }
    const set = setsAny(prepared, field, currencyView.currency)
      ? storedAmounts(prepared, field, currencyView.currency)
      : null
    const atHome = referenceAmounts(prepared, field, currencyViewInto(prepared, currencyView, home))
    const conversion = conversionInto(prepared, currencyView, home)
    return (number) => {
      const own = set ? amountAt(set, number) : Number.NaN
      if (own === own) return adjust ? adjusted(adjust, prepared, currencyView, number, own) : own
      return conversion ? runPriceStep(conversion, amountAt(atHome, number)) : Number.NaN
    }
  })
}

/** A reference amount only where it is set in the currency of the currency view itself; `null` where nobody sets any. */
export function ownAmounts(
  asked: PreparedStore,
  field: ReferenceField,
  currencyView: CurrencyView,
): Amounts | null {
  const prepared = wholeOf(asked)
  const { store } = prepared
  if (currencyView.currency === getSettings(store).currency)
    return referenceAmounts(prepared, field, currencyView)
  if (!setsAny(prepared, field, currencyView.currency)) return null
  return kept(prepared, `own/${field}/${currencyView.key}`, () => {
    const adjust = field === 'basePrice' ? adjusterOfBase(prepared, currencyView) : null
    const stored = storedAmounts(prepared, field, currencyView.currency)
    return (number) => {
      const amount = amountAt(stored, number)
      return adjust ? adjusted(adjust, prepared, currencyView, number, amount) : amount
    }
  })
}

/** Whether any item sets an amount in a currency: often none does, and nothing need be looked up. */
export function setsAny(asked: PreparedStore, field: ReferenceField, currency: string): boolean {
  const prepared = wholeOf(asked)
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
  return kept(prepared, `${STORED}${field}/${currency}`, () => computeStored(prepared, field, currency))
}

function computeStored(
  { store, index }: PreparedStore,
  field: ReferenceField,
  currency: string,
): Amounts['compute'] {
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

function kept(prepared: PreparedStore, key: string, make: () => Amounts['compute']): Amounts {
  let amounts = prepared.amounts.get(key)
  if (!amounts) {
    if (prepared.amounts.size >= MOST_KEPT) dropOldest(prepared.amounts)
    const compute = make()
    amounts = {
      values: new Float64Array(prepared.index.items.length).fill(UNKNOWN),
      compute,
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

/** What the adjustments of a currency view make of an item's base price; `null` when there are none. */
function adjusterOfBase(prepared: PreparedStore, currencyView: CurrencyView): Adjuster | null {
  return currencyView.adjustments.length === 0
    ? null
    : adjustedBy(prepared, currencyView, currencyView.adjustments)
}

/** A base price after adjustments; it has the store's basis, as they have. */
function adjusted(
  adjust: Adjuster,
  prepared: PreparedStore,
  { digits }: CurrencyView,
  number: number,
  amount: number,
): number {
  return amount === amount ? adjust(amount, number, digits, storeBasis(prepared)) : amount
}

/**
 * The amounts that stay known when some items are edited, for the store after the edit. What is computed from
 * others is dropped; it is computed again for the items looked at.
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
    after.amounts.set(key, { values, compute: computeStored(after, field, currency), isComplete })
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
