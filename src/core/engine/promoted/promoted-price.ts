import { powerOfTen } from '../../decimal/decimal'
import { type Fraction, multiplyFractions } from '../../decimal/fraction'
import { closedBy } from '../../promotions/closed-by'
import type { Promotion } from '../../promotions/promotion'
import { factorBetween, storeBasis } from '../amounts/basis'
import type { FoundPrice } from '../context/found-price'
import type { BasedUnits } from '../lists/based-units'
import { floorUnits } from '../price/find-price'
import type { ItemPromotion, ItemPromotions } from './item-promotions'

/** A promotion that was applied, and the price it left in smallest units. */
export interface AppliedToPrice {
  readonly promotion: Promotion
  readonly units: number
}

/** A price after promotions, in the basis of the store. */
export interface PromotedPrice extends BasedUnits {
  /** What made it so, in the order they were applied, with the price each left. */
  readonly by: readonly AppliedToPrice[]
}

/**
 * What promotions on item prices make of the price of an item, by its number: as a cart with the item alone would.
 *
 * Errors  `null` where they change nothing: none is for it, a contract protects it, or there is no price.
 */
export function promotedPrice(
  promotions: ItemPromotions,
  number: number,
  found: Pick<FoundPrice, 'units' | 'basis' | 'entry'>,
  /** The price exactly, in the basis of `found`, where it is no whole number of units. */
  exact: Fraction | null = null,
): PromotedPrice | null {
  const { prepared, pricingContext, inOrder } = promotions
  if (inOrder.length === 0 || found.units !== found.units || found.entry?.contract?.isProtected) return null
  const held = inOrder.filter(({ holds }) => holds(number))
  if (held.length === 0) return null
  const basis = storeBasis(prepared)
  const factor = factorBetween(prepared, pricingContext.currencyView, number, found.basis, basis)
  const by: AppliedToPrice[] = []
  const floor = floorUnits(prepared, pricingContext, number)
  const start = exact && (factor ? multiplyFractions(exact, factor) : exact)
  const scale = { numerator: powerOfTen(pricingContext.digits), denominator: 1n }
  const exactly = start && { each: start, units: multiplyFractions(start, scale) }
  const units = applyInOrder(held, found.units, factor, floor, by, exactly)
  return by.length === 0 ? null : { units, basis, by }
}

/**
 * The price after those of some promotions that apply, in smallest units; they are written into `by`. By priority, and of
 * equal priority the one that saves most first.
 */
export function applyInOrder(
  held: readonly ItemPromotion[],
  before: number,
  factorBefore: Fraction | null,
  floor: number,
  by: AppliedToPrice[],
  /** The price before exactly, in the basis of the store, where it is no whole number of units. */
  start: { readonly each: Fraction; readonly units: Fraction } | null = null,
): number {
  let units = before
  let factor = factorBefore
  const takers: Promotion[] = []
  let open = held
  while (open.length > 0) {
    const rank = open[0]?.promotion.rank
    let best: ItemPromotion | null = null
    let least = units
    for (const each of open) {
      if (each.promotion.rank !== rank) break
      if (closedBy(takers, each.promotion)) continue
      const exact = takers.length === 0 ? start : null
      const left = exact ? each.afterExactly(exact.each) : each.after(units, factor)
      const after = Math.max(left, floor)
      const saves = best
        ? after < least
        : exact
          ? isLess(after, 1, exact.units)
          : isLess(after, units, factor)
      if (!saves) continue
      best = each
      least = after
    }
    if (!best) {
      open = open.filter(({ promotion }) => promotion.rank !== rank)
      continue
    }
    takers.push(best.promotion)
    by.push({ promotion: best.promotion, units: least })
    units = least
    factor = null
    open = open.filter((each) => each !== best)
  }
  return units
}

/** `factor` brings the price that is compared with to the basis of the other. */
function isLess(price: number, than: number, factor: Fraction | null): boolean {
  if (factor === null) return price < than
  return BigInt(price) * factor.denominator < BigInt(than) * factor.numerator
}
