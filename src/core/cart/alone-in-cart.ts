import { compare, type Decimal, ZERO } from '../decimal/decimal'
import type { PreparedStore } from '../engine/context/prepared-store'
import type { BuyerContext } from '../engine/context/buyer-context'
import { isForEverything, type LimitRule } from '../limits/limit'
import type { CartProblem, PastPurchase } from './cart'
import { priceCart } from './price-cart'

export type BrokenLimit = Extract<CartProblem, { readonly kind: 'quantity' | 'together' }>

/** One variant that is tried in a cart with nothing else in it. */
export interface TriedItem extends BuyerContext {
  /** Id of the variant. */
  readonly variant: string
  readonly past: readonly PastPurchase[]
}

/**
 * The limits that a quantity breaks when nothing else is in the cart: those of the item, those that count it with
 * others, and those over several days. Limits of a whole order are left out, for other items can still meet them.
 *
 * Errors  throws `RangeError` for a buyer, variant, channel or currency that does not exist, or a quantity not above 0.
 */
export function brokenAlone(
  prepared: PreparedStore,
  tried: TriedItem,
  quantity: Decimal,
): readonly BrokenLimit[] {
  const { variant, ...buyerContext } = tried
  const cart = priceCart(prepared, { ...buyerContext, lines: [{ variant, quantity, extras: [] }] })
  if (!cart.ok) throw new RangeError(`cannot be tried: ${cart.error.code}`)
  return cart.value.problems.filter(
    (problem): problem is BrokenLimit =>
      problem.kind === 'quantity' || (problem.kind === 'together' && !countsOrder(problem.rule)),
  )
}

function countsOrder(rule: LimitRule): boolean {
  return rule.counting === 'together' && isForEverything(rule)
}

/** Limits that move each other's answer this often are met by no quantity anybody would order. */
const MOST_STEPS = 100

/**
 * The nearest quantity that breaks no limit alone in a cart, on one side of the quantity asked for or at it; `null`
 * where there is none.
 */
export function nearestAlone(
  prepared: PreparedStore,
  tried: TriedItem,
  quantity: Decimal,
  side: 'below' | 'above',
): Decimal | null {
  let next = quantity
  for (let step = 0; step < MOST_STEPS; step += 1) {
    if (compare(next, ZERO) <= 0) return null
    const [broken] = brokenAlone(prepared, tried, next)
    if (!broken) return next
    // A value or a weight is not met by a quantity that follows from it.
    if (broken.kind === 'together' && broken.measure !== 'quantity') return null
    const nearest = broken.nearest[side]
    // Where two limits contradict each other, each sends back to where the other refused.
    if (nearest === null || compare(nearest, next) === 0) return null
    next = nearest
  }
  return null
}
