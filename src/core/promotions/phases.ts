import type { Promotion, PromotionKind } from './promotion'

/**
 * Promotions on goods are considered kind by kind: prices of items, then goods together, then the whole order. Those on
 * delivery and payment look at the cart after all others.
 */
export const PHASES: readonly (readonly PromotionKind[])[] = [
  ['item-price'],
  ['by-quantity', 'set', 'free-goods'],
  ['order'],
]

/** The place of a promotion's kind among the phases; −1 for one that is not on goods. */
export function phaseOf({ value }: Promotion): number {
  return PHASES.findIndex((kinds) => kinds.includes(value.kind))
}
