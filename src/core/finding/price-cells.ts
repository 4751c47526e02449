import { isSold } from '../catalogue/is-sold'
import { compare } from '../decimal/decimal'
import { everyAmount, shownAmounts } from '../engine/amounts/amounts'
import { shownInBasis, storeBasis } from '../engine/amounts/basis'
import { columnPrice, priceColumn } from '../engine/column/price-column'
import type { PreparedStore, PriceColumn } from '../engine/context/prepared-store'
import type { PricingContext } from '../engine/context/pricing-context'
import { toPrice } from '../engine/lists/price-step'
import { openPricingContext } from '../engine/price/open-pricing-context'
import { findRights, isUnrestricted } from '../engine/rules/find-rights'
import { sharedMemory } from '../maps/shared-memory'
import type { Steps } from '../steps/steps'
import type { BuyerClass } from '../impact/buyer-classes'
import type { FindingRecord } from './finding'

const ONE = 1000
const ITEMS_A_STEP = 1_024

export type PriceFault = 'below-cost' | 'above-public' | 'no-price'

/** Items of one class of buyers whose prices have one fault, for one reason. */
export interface FaultyCells {
  readonly fault: PriceFault
  /** What decided the price: its list, or the product's base price. */
  readonly cause: FindingRecord
  /** Numbers of the items, rising. */
  readonly numbers: readonly number[]
}

/** Guests beside a class in its currency; `null` for guests, and where nobody can stand there. */
export function guestsBeside(
  prepared: PreparedStore,
  { buyer }: BuyerClass,
  own: PricingContext,
): PricingContext | null {
  if (buyer.kind === 'guest') return null
  const opened = openPricingContext(prepared, {
    buyer: { kind: 'guest' },
    channel: own.terms.channel?.id ?? null,
    deliverTo: own.deliverTo,
    currency: own.currency,
    passcode: null,
    at: own.at,
  })
  return opened.ok ? opened.value : null
}

/** Every price of a class that is below cost, above what guests pay, or missing though the item is shown. */
export function* faultyCells(
  prepared: PreparedStore,
  of: BuyerClass,
  pricingContext: PricingContext,
): Steps<readonly FaultyCells[]> {
  const column = priceColumn(prepared, pricingContext, ONE)
  const beside = guestsBeside(prepared, of, pricingContext)
  const guests = beside && { context: beside, column: priceColumn(prepared, beside, ONE) }
  const costs = everyAmount(shownAmounts(prepared, 'cost', pricingContext.currencyView))
  const isFree = isUnrestricted(pricingContext)
  const sold = soldFlags(prepared)
  const isPlain = column.bases === null && !guests?.column.bases
  const below = new Gathered('below-cost', prepared, column)
  const above = new Gathered('above-public', prepared, column)
  const missing = new Gathered('no-price', prepared, column)
  yield
  const { variantCount } = prepared.index
  for (let number = 0; number < variantCount; number += 1) {
    if (number % ITEMS_A_STEP === 0) yield
    if (sold[number] === 0) continue
    const price = column.prices[number] as number
    const cost = costs[number] as number
    const usual = guests ? (guests.column.prices[number] as number) : Number.NaN
    if (isPlain && price === price && !(price < cost) && !(price > usual)) continue
    if (price !== price) {
      const rights = findRights(prepared, pricingContext, number)
      if (rights.see && rights.seePrice) missing.add(number, OF_PRODUCT)
      continue
    }
    const [isBelow, isAbove] = isPlain
      ? [price < cost, price > usual]
      : exactly(prepared, { context: pricingContext, column }, guests, cost, number)
    if (!isBelow && !isAbove) continue
    if (!isFree && !findRights(prepared, pricingContext, number).see) continue
    const source = column.sources[number] as number
    if (isBelow) below.add(number, source)
    if (isAbove) above.add(number, source)
  }
  return [...below.cells(), ...above.cells(), ...missing.cells()]
}

interface Side {
  readonly context: PricingContext
  readonly column: PriceColumn
}

/** Amounts with and without tax are compared exactly. */
function exactly(
  prepared: PreparedStore,
  own: Side,
  guests: Side | null,
  costUnits: number,
  number: number,
): readonly [isBelow: boolean, isAbove: boolean] {
  const price = homePrice(prepared, own, number)
  if (price === null) return [false, false]
  const cost = toPrice(costUnits, own.context.digits)
  const usual = guests && homePrice(prepared, guests, number)
  return [cost !== null && compare(price, cost) < 0, usual !== null && compare(price, usual) > 0]
}

/** In the basis of the store. */
function homePrice(prepared: PreparedStore, { context, column }: Side, number: number) {
  const price = columnPrice(prepared, column, number)
  return shownInBasis(prepared, context.currencyView, number, price, storeBasis(prepared))
}

const OF_PRODUCT = -1

/** Items with one fault, by the place of the list that decided, or else by product. */
class Gathered {
  private readonly byList: number[][] = []
  private readonly byProduct = new Map<string, number[]>()

  constructor(
    private readonly fault: PriceFault,
    private readonly prepared: PreparedStore,
    private readonly column: PriceColumn,
  ) {}

  add(number: number, source: number): void {
    if (source >= 0) {
      const known = this.byList[source]
      if (known) known.push(number)
      else this.byList[source] = [number]
      return
    }
    const product = productOf(this.prepared, number)
    const known = this.byProduct.get(product)
    if (known) known.push(number)
    else this.byProduct.set(product, [number])
  }

  cells(): readonly FaultyCells[] {
    const { fault } = this
    const ofLists = this.byList.map((numbers, source): FaultyCells => {
      const id = this.column.lists[source] as string
      return { fault, cause: { kind: 'price-list', id }, numbers }
    })
    const ofProducts = [...this.byProduct].map(([id, numbers]): FaultyCells => ({
      fault,
      cause: { kind: 'product', id },
      numbers,
    }))
    return [...ofLists.filter((each) => each !== undefined), ...ofProducts]
  }
}

function productOf({ store, index }: PreparedStore, number: number): string {
  return store.variant.get(index.items[number] as string)?.product ?? ''
}

const SOLD = sharedMemory('sold-flags', () => new WeakMap<PreparedStore, Uint8Array>())

/** By number, 1 for a variant that is sold. */
function soldFlags(prepared: PreparedStore): Uint8Array {
  const known = SOLD.get(prepared)
  if (known) return known
  const { store, index } = prepared
  const flags = new Uint8Array(index.variantCount)
  for (let number = 0; number < flags.length; number += 1)
    flags[number] = Number(isSold(store, index.items[number] as string))
  SOLD.set(prepared, flags)
  return flags
}
