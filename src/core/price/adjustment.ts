import type { Decimal } from '../decimal/decimal'
import type { RoundingRule } from '../decimal/rounding'
import type { Rule } from '../rules/rule'

export type AdjustmentMethod =
  | { readonly kind: 'percent'; readonly percent: Decimal }
  /** In the store's currency. */
  | { readonly kind: 'amount'; readonly amount: Decimal }

/** A switch that moves prices for a while; nothing stored changes, so switching it off restores everything. */
export interface Adjustment extends Rule {
  /** The base price, which everything computed from it follows, or the price shown at the end. */
  readonly target: 'base' | 'shown'
  readonly method: AdjustmentMethod
  /** How the result is rounded; `null` means to the smallest unit. Of several, the last one's rule counts. */
  readonly rounding: RoundingRule | null
}
