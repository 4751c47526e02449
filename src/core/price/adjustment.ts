import type { Decimal } from '../decimal/decimal'
import type { RoundingRule } from '../decimal/rounding'
import type { Status } from '../issue/issue'
import type { What } from '../predicates/what'
import type { Schedule } from '../predicates/when'
import type { Where } from '../predicates/where'
import type { Who } from '../predicates/who'

export type AdjustmentMethod =
  | { readonly kind: 'percent'; readonly percent: Decimal }
  /** In the store's currency. */
  | { readonly kind: 'amount'; readonly amount: Decimal }

/** A switch that moves prices for a while; nothing stored changes, so switching it off restores everything. */
export interface Adjustment {
  readonly id: string
  readonly code: string
  readonly name: string
  readonly state: 'on' | 'off'
  readonly status: Status
  /** The base price, which everything computed from it follows, or the price shown at the end. */
  readonly target: 'base' | 'shown'
  readonly method: AdjustmentMethod
  /** How the result is rounded; `null` means to the smallest unit. Of several, the last one's rule counts. */
  readonly rounding: RoundingRule | null
  /** Several apply in this order, 1 first. */
  readonly rank: number
  readonly audience: Who
  readonly scope: What
  readonly place: Where
  readonly schedule: Schedule
}

export function compareAdjustments(left: Adjustment, right: Adjustment): number {
  return left.rank - right.rank || (left.code < right.code ? -1 : 1)
}
