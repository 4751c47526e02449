import { type PromotionFacts, usesLeftOf } from '../../promotions/facts'
import type { Promotion } from '../../promotions/promotion'
import { circumstancesAt, matchRule } from '../../rules/match-rule'
import { compareRules } from '../../rules/rule'
import type { PreparedStore } from '../context/prepared-store'
import type { PricingContext } from '../context/pricing-context'

/**
 * Promotions that hold for a buyer whatever lies in the cart, and that may still be used: by priority, then by code. Their
 * conditions are not looked at.
 *
 * Units   `at` in epoch milliseconds: a pricing context may be kept for longer than promotions hold.
 */
export function holdingPromotions(
  { terms }: PreparedStore,
  pricingContext: PricingContext,
  at: number,
  facts: PromotionFacts,
): readonly Promotion[] {
  const circumstances = circumstancesAt({ ...pricingContext, at })
  return terms.promotions
    .filter(
      ({ rule, schedule }) =>
        matchRule(rule, schedule, circumstances).holds && usesLeftOf(rule, facts).count >= 1,
    )
    .map(({ rule }) => rule)
    .sort(compareRules)
}
