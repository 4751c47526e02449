import 'server-only'

import { compare, type Decimal, decimal, sum } from '@/core/decimal/decimal'
import { divide } from '@/core/decimal/fraction'
import { roundToDigits } from '@/core/decimal/rounding'
import { amountAt, shownAmounts } from '@/core/engine/amounts/amounts'
import { shownInBasis, storeBasis } from '@/core/engine/amounts/basis'
import type { PreparedStore, PriceColumn } from '@/core/engine/context/prepared-store'
import { priceColumn } from '@/core/engine/column/price-column'
import { toPrice } from '@/core/engine/lists/price-step'
import type { PricingContext } from '@/core/engine/context/pricing-context'
import type { BuyerContext } from '@/core/engine/context/buyer-context'
import { differencePercent } from '@/core/decimal/difference-percent'
import { isBelowCost, marginPercent } from '@/core/price/margin'
import { Slices } from '@/server/doors/slices'
import { pricingContextOf } from '@/server/engine/request-context'
import { type SoldVariant, soldVariants } from '@/server/engine/sold-variants'

/** A price on two sides: in two stores, or of two buyers. Amounts in the basis of the store. */
export interface PriceMove {
  readonly item: SoldVariant
  readonly before: Decimal | null
  readonly after: Decimal | null
  readonly marginBefore: Decimal | null
  readonly marginAfter: Decimal | null
  readonly isBelowCost: boolean
}

/** One buyer's prices in one store. */
export interface PriceSide {
  readonly prepared: PreparedStore
  readonly pricingContext: PricingContext
  readonly column: PriceColumn
}

/** Errors  throws `RangeError` where the store does not know the buyer. */
export function priceSide(prepared: PreparedStore, look: BuyerContext, quantity: number): PriceSide {
  const pricingContext = pricingContextOf(prepared, look)
  return { prepared, pricingContext, column: priceColumn(prepared, pricingContext, quantity) }
}

/** The price of an item on a side, in the basis of the store; `null` where there is none. */
export function amountOn({ prepared, pricingContext, column }: PriceSide, number: number): Decimal | null {
  const units = column.prices[number] ?? Number.NaN
  const home = storeBasis(prepared)
  const basis = column.bases === null ? home : column.bases[number] === 1 ? 'gross' : 'net'
  return shownInBasis(prepared, pricingContext.currencyView, number, { units, basis }, home)
}

function costOn({ prepared, pricingContext }: PriceSide, number: number): Decimal | null {
  const { currencyView } = pricingContext
  return toPrice(amountAt(shownAmounts(prepared, 'cost', currencyView), number), currencyView.digits)
}

/** Every price that is another one on the second side, in the order of the catalogue. */
export async function priceMoves(before: PriceSide, after: PriceSide): Promise<readonly PriceMove[]> {
  const moves: PriceMove[] = []
  const slices = new Slices()
  for (const item of await soldVariants(after.prepared)) {
    if (slices.isDue()) await slices.rest()
    const now = after.prepared.index.numberOf.get(item.variant.id)
    const then = before.prepared.index.numberOf.get(item.variant.id)
    if (now === undefined || then === undefined) continue
    // What has not moved in smallest units has not moved.
    if (isSame(before, then, after, now)) continue
    const [old, next] = [amountOn(before, then), amountOn(after, now)]
    if (old === next) continue
    const cost = costOn(after, now)
    moves.push({
      item,
      before: old,
      after: next,
      marginBefore: old === null || cost === null ? null : marginPercent(old, cost),
      marginAfter: next === null || cost === null ? null : marginPercent(next, cost),
      isBelowCost: next !== null && cost !== null && isBelowCost(next, cost),
    })
  }
  return moves
}

function isSame(before: PriceSide, then: number, after: PriceSide, now: number): boolean {
  const [old, next] = [before.column.prices[then], after.column.prices[now]]
  if (Number.isNaN(old) && Number.isNaN(next)) return true
  return (
    old === next &&
    before.pricingContext.currency === after.pricingContext.currency &&
    (before.column.bases?.[then] ?? -1) === (after.column.bases?.[now] ?? -1)
  )
}

export interface MovesSummary {
  readonly moved: number
  readonly rise: number
  readonly fall: number
  readonly appear: number
  readonly vanish: number
  readonly belowCost: number
  /** Of those with a price on both sides, in percent. */
  readonly mean: Decimal | null
}

/** How many prices move and how far, on average. */
export function summaryOf(moves: readonly PriceMove[]): MovesSummary {
  let [rise, fall, appear, vanish, belowCost] = [0, 0, 0, 0, 0]
  const percents: Decimal[] = []
  for (const { before, after, isBelowCost: below } of moves) {
    if (below) belowCost += 1
    if (before === null) appear += 1
    else if (after === null) vanish += 1
    else {
      if (compare(after, before) > 0) rise += 1
      else fall += 1
      const percent = differencePercent(after, before)
      if (percent !== null) percents.push(percent)
    }
  }
  return { moved: moves.length, rise, fall, appear, vanish, belowCost, mean: meanPercent(percents) }
}

/** The mean of percentages, with one digit (half up); `null` of none. */
export function meanPercent(percents: readonly Decimal[]): Decimal | null {
  if (percents.length === 0) return null
  return roundToDigits(divide(sum(percents), decimal(percents.length)), 1, 'half-up')
}
