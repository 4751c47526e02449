import type { LimitRule } from '../limits/limit'
import type { Nearest } from '../limits/nearest-quantities'
import type { Decimal } from '../decimal/decimal'
import type { Access } from '../engine/rules/find-rights'
import type { StockLevels } from '../catalogue/stock'
import type { FoundLimits, LimitSource } from '../engine/rules/find-limits'
import type { QuestionError, BuyerContext } from '../engine/context/buyer-context'
import type { Levy, LevyMiss, PlacePart } from '../tax/find-levies'
import type { AppliedPromotion, IdlePromotion } from './promote/outcome'
import type { PromotionFacts } from '../promotions/facts'
import type { TaxBasis } from '../price/based-amount'
import type { SettledPrice } from '../price/settled-price'

/** One line of a cart as it is put in. */
export interface CartLineWanted {
  /** Id of the variant. */
  readonly variant: string
  readonly quantity: Decimal
  /** Ids of the extras wanted with each piece. */
  readonly extras: readonly string[]
  /** A price that was settled for this line, whatever rules say; promotions leave it alone. */
  readonly settled?: SettledPrice | undefined
}

/** What a buyer ordered before, for limits over a period. */
export interface PastPurchase {
  readonly variant: string
  readonly quantity: Decimal
  /** Epoch milliseconds. */
  readonly at: number
}

export interface CartQuestion extends BuyerContext {
  readonly lines: readonly CartLineWanted[]
  readonly past: readonly PastPurchase[]
  /** How many there are of what is counted; left out where stock is not to be asked for. */
  readonly stock?: StockLevels
  /** Whether it is taken along, so that nothing is delivered. */
  readonly isCollected?: boolean
  /** What promotions ask beside the lines; left out where nothing is known, `null` to leave promotions out. */
  readonly promotions?: PromotionFacts | null
}

/** An amount with its tax; net + tax = gross. */
export interface TaxedAmount {
  readonly net: Decimal
  readonly tax: Decimal
  readonly gross: Decimal
}

export interface CartLine extends CartLineWanted {
  readonly access: Access
  /** Of one piece with its extras, as it was entered; `null` without a price. */
  readonly unit: Decimal | null
  /** Of one piece, with its tax computed by itself. */
  readonly unitAmount: TaxedAmount | null
  readonly basis: TaxBasis
  /** Of the whole line, rounded to what can be paid. */
  readonly amount: TaxedAmount | null
  readonly taxes: readonly { readonly levy: Levy; readonly amount: Decimal }[]
  readonly misses: readonly LevyMiss[]
  readonly limits: FoundLimits
  /** The list that decided and the contract that led to it, by id. */
  readonly list: string | null
  readonly contract: string | null
  /** How many can still be ordered; `null` where nobody counts. */
  readonly stock: Decimal | null
  /** Of the whole line before promotions, in its basis; `null` without a price. */
  readonly before: Decimal | null
  /** The same with its tax, computed by itself. */
  readonly beforeAmount: TaxedAmount | null
  readonly discounts: readonly Discount[]
  /** The promotion that gives it for nothing, by id; `null` for what was put in. */
  readonly gift: string | null
}

/** What a promotion takes off one line. */
export interface Discount {
  readonly promotion: string
  readonly quantity: Decimal
  /** In the basis of the line. */
  readonly saving: Decimal
}

/** One sum of the same tax at the same rate. */
export interface TaxTotal {
  readonly levy: Levy
  readonly on: Decimal
  readonly amount: Decimal
}

export type LimitProblem =
  | {
      readonly code: 'below-minimum' | 'above-maximum' | 'not-a-multiple' | 'not-allowed'
      /** The limit that is broken. */
      readonly limit: Decimal | null
    }
  | { readonly code: 'contradictory' }
  /** Part of a piece of what is sold by the piece. */
  | { readonly code: 'not-whole' }

/** What stands between a cart and an order. */
export type CartProblem =
  /** The line cannot be bought, whatever the quantity. */
  | { readonly kind: 'access'; readonly line: number; readonly access: Access }
  | { readonly kind: 'no-price'; readonly line: number }
  /** An extra of the line is no longer to be had with it. */
  | { readonly kind: 'extra-gone'; readonly line: number; readonly extra: string }
  | {
      readonly kind: 'quantity'
      readonly line: number
      readonly problem: LimitProblem
      readonly source: LimitSource | null
      readonly nearest: Nearest
    }
  /** More than there is, and no more may be ordered than that. */
  | {
      readonly kind: 'stock'
      readonly line: number
      readonly available: Decimal
      readonly nearest: Nearest
    }
  /** A rule that counts more than one line, or more than this order. */
  | {
      readonly kind: 'together'
      readonly rule: LimitRule
      /** Positions of the lines it counts. */
      readonly lines: readonly number[]
      readonly measure: 'quantity' | 'value' | 'weight'
      readonly problem: LimitProblem
      /** What it comes to, past orders included. */
      readonly has: Decimal
      /** How much of it was ordered before. */
      readonly before: Decimal
      readonly nearest: Nearest
    }
  | {
      readonly kind: 'contract-minimum'
      readonly contract: string
      readonly limit: Decimal
      readonly currency: string
      readonly has: Decimal
    }
  /** The taxes there depend on a part of the place that is not said. */
  | { readonly kind: 'place'; readonly part: PlacePart }

export interface Cart {
  readonly currency: string
  readonly digits: number
  readonly lines: readonly CartLine[]
  readonly delivery: TaxedAmount
  /** What is added for how the buyer pays, or below zero what is taken off. */
  readonly payment: TaxedAmount
  readonly goods: TaxedAmount
  readonly taxes: readonly TaxTotal[]
  /** Goods, delivery and payment. */
  readonly total: TaxedAmount
  readonly untaxed: 'certificate' | 'reverse-charge' | null
  /** Kilograms, where every line's weight is known; else `null`. */
  readonly weight: Decimal | null
  readonly problems: readonly CartProblem[]
  readonly promotions: {
    readonly applied: readonly AppliedPromotion[]
    /** Every other one, and why it changed nothing. */
    readonly idle: readonly IdlePromotion[]
  }
}

export type CartResult =
  { readonly ok: true; readonly value: Cart } | { readonly ok: false; readonly error: QuestionError }
