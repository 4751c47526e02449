import type { Decimal } from '../decimal/decimal'
import type { RoundingRule } from '../decimal/rounding'
import type { WhatTerm } from '../predicates/what'
import type { WhoMatch, WhoTerm } from '../predicates/who'
import type { Rung } from '../price/ladder'
import type { PriceMethod } from '../price/price-list'

/** A line of a list by its id; `null` is the list's default line. */
export interface LineReference {
  readonly list: string
  readonly line: string | null
}

/** One step that made the number, in order. */
export type TraceStep =
  | { readonly kind: 'base'; readonly amount: Decimal; readonly from: 'product' | 'variant' }
  | {
      readonly kind: 'line'
      readonly at: LineReference
      /** Through which term of the list's audience the buyer is in it. */
      readonly audience: WhoTerm
      /** Through which term of its scope the line reaches the item; `null` for the default line. */
      readonly scope: WhatTerm | null
      readonly rung: Rung
      readonly method: PriceMethod
      /** Exactly, before rounding. */
      readonly amount: Decimal
    }
  | { readonly kind: 'rounding'; readonly rule: RoundingRule; readonly amount: Decimal }

/** Why a candidate did not decide the price. */
export type LossReason =
  | { readonly code: 'off' }
  | { readonly code: 'not-for-buyer'; readonly match: Extract<WhoMatch, { matches: false }> }
  | { readonly code: 'no-line' }
  | { readonly code: 'excluded-item'; readonly by: WhatTerm }
  | { readonly code: 'less-specific-line'; readonly than: LineReference }
  | { readonly code: 'later-line'; readonly than: LineReference }
  | { readonly code: 'no-base-price' }
  | { readonly code: 'not-above-zero'; readonly amount: Decimal }
  | { readonly code: 'lower-rung'; readonly rung: Rung; readonly winner: Rung }
  | { readonly code: 'later-rank'; readonly rank: number; readonly winner: number }
  | { readonly code: 'less-specific-list'; readonly winner: LineReference }
  | { readonly code: 'later-code'; readonly winner: LineReference }

/** A list or line that could have decided the price and did not. */
export interface Loser {
  readonly at: LineReference
  readonly reason: LossReason
  /** The price it would have given this buyer, had it won; `null` when it would have given none. */
  readonly price: Decimal | null
}

export type Winner =
  | { readonly kind: 'list'; readonly at: LineReference }
  | { readonly kind: 'base' }
  | { readonly kind: 'none' }

/** Everything that made a price, and everything that did not, as data. */
export interface Trace {
  readonly winner: Winner
  readonly steps: readonly TraceStep[]
  readonly losers: readonly Loser[]
}

/** One unit's price for one buyer. `unit` is `null` when there is neither a list price nor a base price. */
export interface Answer {
  readonly unit: Decimal | null
  readonly currency: string
  readonly trace: Trace
}
