import { compare, type Decimal, decimal, subtract, sum, ZERO } from '../decimal/decimal'
import { type Condition, type Promotion, sameCode, type UseLimits } from './promotion'

/** An order of the buyer's that was not cancelled. */
export interface PastOrder {
  /** Epoch milliseconds. */
  readonly at: number
  /** Goods without tax, in the store's currency. */
  readonly value: Decimal
}

/** How often a promotion has been used. */
export interface Uses {
  readonly total: number
  readonly byBuyer: number
  readonly today: number
}

export type Choice = 'taken' | 'left'

/** What promotions ask of a cart beside what lies in it. */
export interface PromotionFacts {
  /** As they were typed. */
  readonly codes: readonly string[]
  /** How the buyer will pay; `null` while they have not said. */
  readonly payment: 'card' | 'terms' | null
  /** What was said to each offer, by the promotion's id. */
  readonly choices: Readonly<Record<string, Choice>>
  /** `null` for guests, whose orders nobody knows. */
  readonly pastOrders: readonly PastOrder[] | null
  /** By the promotion's id; who is not in it has not been used. */
  readonly uses: Readonly<Record<string, Uses>>
}

export const NO_FACTS: PromotionFacts = { codes: [], payment: null, choices: {}, pastOrders: null, uses: {} }

const DAY = 86_400_000

/** A condition on the buyer and what they said, whatever lies in the cart. */
export type BuyerCondition = Exclude<Condition, { readonly kind: 'value' | 'quantity' | 'weight' }>

export function isOnBuyer(condition: Condition): condition is BuyerCondition {
  return condition.kind !== 'value' && condition.kind !== 'quantity' && condition.kind !== 'weight'
}

/**
 * What is missing for a condition on the buyer, in its own measure: `nothing`, or `null` where nothing can be added.
 *
 * Units   `at` in epoch milliseconds.
 */
export function missingOfBuyer(
  condition: BuyerCondition,
  facts: PromotionFacts,
  at: number,
): Decimal | null | 'nothing' {
  switch (condition.kind) {
    case 'orders':
      return missingOf(subtract(decimal(condition.from), decimal(recent(facts, at, condition.days).length)))
    case 'spend': {
      const spent = sum(recent(facts, at, condition.days).map(({ value }) => value))
      return missingOf(subtract(condition.from.amount, spent))
    }
    case 'first-order':
      return facts.pastOrders?.length === 0 ? 'nothing' : null
    case 'payment':
      return facts.payment === condition.payment ? 'nothing' : null
    case 'code':
      return facts.codes.some((typed) => sameCode(typed, condition.code)) ? 'nothing' : null
  }
}

/** A difference, where it is above zero. */
export function missingOf(difference: Decimal): Decimal | 'nothing' {
  return compare(difference, ZERO) > 0 ? difference : 'nothing'
}

function recent({ pastOrders }: PromotionFacts, at: number, days: number | null) {
  return (pastOrders ?? []).filter((order) => days === null || order.at > at - days * DAY)
}

/** How often it may still be used in this order, and what keeps it from being used more. */
export function usesLeftOf(
  { id, uses }: Promotion,
  facts: PromotionFacts,
): { readonly count: number; readonly by: keyof UseLimits | null } {
  const used = facts.uses[id]
  const limits: readonly (readonly [keyof UseLimits, number])[] = [
    ['total', used?.total ?? 0],
    ['perBuyer', used?.byBuyer ?? 0],
    ['perDay', used?.today ?? 0],
    ['perOrder', 0],
  ]
  let least: { count: number; by: keyof UseLimits | null } = { count: Number.POSITIVE_INFINITY, by: null }
  for (const [by, before] of limits) {
    const limit = uses[by]
    if (limit !== null && Math.max(0, limit - before) < least.count)
      least = { count: Math.max(0, limit - before), by }
  }
  return least
}
