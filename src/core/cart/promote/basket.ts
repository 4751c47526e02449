import {
  compareFractions,
  type Fraction,
  multiplyFractions,
  subtractFractions,
  ZERO_FRACTION,
} from '../../decimal/fraction'
import { closedBy } from '../../promotions/closed-by'
import type { Promotion } from '../../promotions/promotion'

/** Some of a line's units that have been through the same promotions. */
export interface Segment {
  readonly line: number
  /** In thousandths. */
  readonly quantity: number
  /** What is still to be paid for all of it, exactly, in the basis of the store. */
  readonly left: Fraction
  readonly takenBy: readonly Promotion[]
}

/** How much of a segment a promotion takes. */
export interface Take {
  readonly segment: number
  /** In thousandths. */
  readonly quantity: number
}

/** The units of a cart, as promotions take them one after the other. Never changed in place. */
export type Basket = readonly Segment[]

/** What is to be paid for some of a segment. */
export function shareOf({ left, quantity }: Segment, taken: number): Fraction {
  return taken === quantity
    ? left
    : multiplyFractions(left, { numerator: BigInt(taken), denominator: BigInt(quantity) })
}

/** Below, at or above zero as one price for a unit is below, equal to or above another. */
export function compareUnits(one: Segment, other: Segment): number {
  const mine = one.left.numerator * other.left.denominator * BigInt(other.quantity)
  const theirs = other.left.numerator * one.left.denominator * BigInt(one.quantity)
  return mine === theirs ? 0 : mine < theirs ? -1 : 1
}

/** Whether a promotion may still take units that others took. */
export function isOpen({ takenBy }: Segment, promotion: Promotion): boolean {
  return closedBy(takenBy, promotion) === null
}

/**
 * The basket after a promotion took units; `savings` are exact parts, one for each take. What it did not touch keeps its
 * place, so that plans for the rest still hold: what is left of a segment stands behind all others.
 */
export function afterTaking(
  basket: Basket,
  promotion: Promotion,
  takes: readonly Take[],
  savings: readonly Fraction[],
): Basket {
  const taken = new Map(takes.map((take, at) => [take.segment, { ...take, saving: savings[at] as Fraction }]))
  const rests: Segment[] = []
  const used = basket.map((segment, at): Segment => {
    const take = taken.get(at)
    if (!take) return segment
    const part = shareOf(segment, take.quantity)
    const rest = segment.quantity - take.quantity
    if (rest > 0) rests.push({ ...segment, quantity: rest, left: shareOf(segment, rest) })
    return {
      line: segment.line,
      quantity: take.quantity,
      left: compareFractions(part, take.saving) > 0 ? subtractFractions(part, take.saving) : ZERO_FRACTION,
      takenBy: [...segment.takenBy, promotion],
    }
  })
  return [...used, ...rests]
}
