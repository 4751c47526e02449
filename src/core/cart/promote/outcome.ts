import type { Decimal } from '../../decimal/decimal'
import type { Condition, UseLimits } from '../../promotions/promotion'
import type { NotHolding } from '../../rules/match-rule'

/** Why a promotion changed nothing. */
export type WhyNot =
  | NotHolding
  /** `missing` is in the condition's own measure; `null` where nothing could be added. */
  | { readonly code: 'condition'; readonly condition: Condition; readonly missing: Decimal | null }
  /** Nothing in the cart is what it is for. */
  | { readonly code: 'not-for-cart' }
  | { readonly code: 'protected'; readonly contract: string }
  /** Another promotion has the units, by its id. */
  | { readonly code: 'used'; readonly by: string }
  /** So many more units would make it hold. */
  | { readonly code: 'too-few'; readonly missing: Decimal }
  /** So much more would, in the buyer's currency. */
  | { readonly code: 'too-little'; readonly missing: Decimal }
  | { readonly code: 'saves-nothing' }
  /** Everything it could save would lead below the floor. */
  | { readonly code: 'floor' }
  | { readonly code: 'used-up'; readonly limit: keyof UseLimits }
  | { readonly code: 'offered'; readonly saving: Decimal }
  | { readonly code: 'declined'; readonly saving: Decimal }
  /** The gift is not shown to this buyer, not sold, or not there; by the variant's id. */
  | { readonly code: 'no-gift'; readonly variant: string }
  | { readonly code: 'no-rate' }

/** Sets that are alike, as they were formed. */
export interface AppliedSet {
  readonly times: number
  readonly units: readonly { readonly line: number; readonly part: number; readonly count: number }[]
  /** What one came to, and what it saves, to the currency's smallest unit. */
  readonly amount: Decimal
  readonly saving: Decimal
}

/**
 * What a promotion did.
 *
 * Units   amounts are in the buyer's currency and the basis of the store; of delivery and payment without tax. A saving below
 *         zero is added.
 */
export interface AppliedPromotion {
  readonly promotion: string
  readonly saving: Decimal
  readonly uses: number
  /** By the positions of the lines; gifts come after the lines that were put in. */
  readonly lines: readonly { readonly line: number; readonly quantity: Decimal; readonly saving: Decimal }[]
  readonly sets: readonly AppliedSet[]
  readonly gifts: readonly { readonly variant: string; readonly quantity: Decimal }[]
  /** How much less it saves so that nothing is sold below its floor; `null` where nothing is. */
  readonly capped: Decimal | null
  /** How many more units would make one more set; `null` for what forms none, or none that may be used. */
  readonly missing: Decimal | null
}

export interface IdlePromotion {
  readonly promotion: string
  readonly because: WhyNot
}
