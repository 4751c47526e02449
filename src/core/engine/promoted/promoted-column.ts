import { factorBetween, storeBasis } from '../amounts/basis'
import { mayHaveFloors } from '../amounts/naming-index'
import { columnPrice, protectedLists } from '../column/price-column'
import type { PriceColumn } from '../context/prepared-store'
import { floorUnits } from '../price/find-price'
import { type Chain, chainsOf, MOST_CHAINED } from './chains'
import type { ItemPromotion, ItemPromotions } from './item-promotions'
import { applyInOrder, type AppliedToPrice } from './promoted-price'

/** What every item costs one buyer after promotions on item prices, by the numbers of the catalogue index. */
export interface PromotedColumn {
  /** In smallest units; NaN where there is no price. Where a promotion made it, in the basis of the store. */
  readonly prices: Float64Array
  /** How many promotions made it so; 0 where the price is that of the column. */
  readonly by: Uint8Array
}

/**
 * A column after promotions.
 *
 * Holds   each price is that of `promotedPrice`.
 */
export function promotedColumn(promotions: ItemPromotions, column: PriceColumn): PromotedColumn {
  const { prepared, pricingContext, inOrder } = promotions
  const { index } = prepared
  const prices = column.prices.slice()
  const by = new Uint8Array(prices.length)
  if (inOrder.length === 0) return { prices, by }
  const { chainOf, chains } = chainsOf(promotions)
  const others = inOrder.filter(({ isFiled }) => !isFiled)
  const isProtected = protectedSources(promotions, column)
  const isPlain = column.bases === null && !prepared.mixesBases && !mayHaveFloors(prepared, pricingContext)
  for (let signature = 0; signature < index.variantSignatures; signature += 1) {
    const from = index.signatureStarts[signature] as number
    const to = index.signatureStarts[signature + 1] as number
    const chain = chains[chainOf[signature] as number] as Chain
    const { held } = chain
    if (held.length === 0 && others.length === 0) continue
    if (isPlain && others.length === 0 && !isProtected && held.length <= MOST_CHAINED) {
      const [only] = held
      if (only?.step && held.length === 1) sweep(only, column.prices, from, to, prices, by)
      else sweepSeveral(chain, column.prices, from, to, prices, by)
    } else
      for (let number = from; number < to; number += 1) {
        if (isProtected?.[column.sources[number] as number]) continue
        promote(promotions, column, number, heldBy(inOrder, held, others, number), prices, by)
      }
  }
  for (let number = index.variantCount; number < prices.length; number += 1) {
    if (isProtected?.[column.sources[number] as number]) continue
    const held = inOrder.filter(({ holds }) => holds(number))
    promote(promotions, column, number, held, prices, by)
  }
  return { prices, by }
}

/** The promotions that are for one item, in their order. */
function heldBy(
  inOrder: readonly ItemPromotion[],
  filed: readonly ItemPromotion[],
  others: readonly ItemPromotion[],
  number: number,
): readonly ItemPromotion[] {
  if (others.length === 0) return filed
  return inOrder.filter((each) => (each.isFiled ? filed.includes(each) : each.holds(number)))
}

/** The hot loop: one promotion over neighbouring items. */
function sweep(
  { step, after }: ItemPromotion,
  before: Float64Array,
  from: number,
  to: number,
  prices: Float64Array,
  by: Uint8Array,
): void {
  const { factor, shift, grid, offset, limit, least, smallest, kind } = step as NonNullable<
    ItemPromotion['step']
  >
  const most = kind === 'formula' ? limit : -1
  for (let number = from; number < to; number += 1) {
    const start = before[number] as number
    if (start !== start) continue
    let price = offset + grid * Math.floor(start * factor + shift)
    if (!(start >= least && start <= most && price > smallest)) price = after(start, null)
    if (!(price < start)) continue
    prices[number] = price
    by[number] = 1
  }
}

/** `applyInOrder` over neighbouring items, with nothing made on the way. */
function sweepSeveral(
  { held, ranks, closers }: Chain,
  before: Float64Array,
  from: number,
  to: number,
  prices: Float64Array,
  by: Uint8Array,
): void {
  for (let number = from; number < to; number += 1) {
    let units = before[number] as number
    if (units !== units) continue
    let taken = 0
    let count = 0
    for (let rank = 0; rank + 1 < ranks.length;) {
      const end = ranks[rank + 1] as number
      let best = -1
      let least = units
      for (let at = ranks[rank] as number; at < end; at += 1) {
        // One that has been applied closes what it took to itself, too.
        if ((taken & (closers[at] as number)) !== 0) continue
        const after = quickAfter(held[at] as ItemPromotion, units)
        if (!(after < least)) continue
        best = at
        least = after
      }
      if (best >= 0) {
        units = least
        taken |= 1 << best
        count += 1
      }
      // Those of one priority are asked again until none of them saves anything.
      if (best < 0 || end - (ranks[rank] as number) === 1) rank += 1
    }
    if (count === 0) continue
    prices[number] = units
    by[number] = count
  }
}

function quickAfter({ step, after }: ItemPromotion, units: number): number {
  if (step?.kind === 'formula' && units >= step.least && units <= step.limit) {
    const price = step.offset + step.grid * Math.floor(units * step.factor + step.shift)
    if (price > step.smallest) return price
  }
  return after(units, null)
}

function promote(
  { prepared, pricingContext }: ItemPromotions,
  column: PriceColumn,
  number: number,
  held: readonly ItemPromotion[],
  prices: Float64Array,
  by: Uint8Array,
): void {
  const { units, basis } = columnPrice(prepared, column, number)
  if (held.length === 0 || units !== units) return
  const factor = factorBetween(prepared, pricingContext.currencyView, number, basis, storeBasis(prepared))
  const applied: AppliedToPrice[] = []
  const price = applyInOrder(held, units, factor, floorUnits(prepared, pricingContext, number), applied)
  if (applied.length === 0) return
  prices[number] = price
  by[number] = applied.length
}

/** By the sources of a column, whether a protected contract has them; `null` where none does. */
function protectedSources(
  { pricingContext }: ItemPromotions,
  { lists }: PriceColumn,
): readonly boolean[] | null {
  const isProtected = protectedLists(pricingContext)
  return isProtected.size === 0 ? null : lists.map((id) => isProtected.has(id))
}
