import type { Decimal } from '../../decimal/decimal'
import type { RoundingRule } from '../../decimal/rounding'
import type { WhatTerm } from '../../predicates/what'
import type { WhenMatch } from '../../predicates/when'
import type { WhoTerm } from '../../predicates/who'
import type { AdjustmentMethod } from '../../price/adjustment'
import type { ContractStanding } from '../../price/contract'
import type { BasedAmount, TaxBasis } from '../../price/based-amount'
import type { SettledBy } from '../../price/settled-price'
import type { Rung } from '../../price/ladder'
import type { BreakCounting, PriceMethod, PriceReference } from '../../price/lines/price-method'
import type { NotHolding } from '../../rules/match-rule'
import type { ReferenceField } from '../../catalogue/product'
import type { RuleStood } from './explain-terms'
import type { FoundLimits } from '../rules/find-limits'
import type { Access, AccessReason } from '../rules/find-rights'
import type { PromotedAmount } from '../promoted/promoted-answer'
import type { PriceTax } from '../rules/find-tax'
import type { LadderEntry } from '../context/pricing-context'

/** A line of a list by its id; `null` is the list's default line. */
export interface LineReference {
  readonly list: string
  readonly line: string | null
}

/** One use of an exchange rate. */
export interface RateUsed {
  /** Id of the rate. */
  readonly rate: string
  readonly per: string
  readonly currency: string
  readonly value: Decimal
  /** ISO 8601 instant it holds from. */
  readonly from: string
  /** Whether it was older than its currency allows. */
  readonly isStale: boolean
}

/**
 * One step that made the number, in order. `amount` is what the step comes to, in `currency` and `basis`; before a rounding it
 * is exact, save that a fraction without end is cut to ten digits for showing.
 */
export type TraceStep =
  | {
      readonly kind: 'reference'
      readonly field: ReferenceField
      readonly amount: Decimal
      readonly currency: string
      readonly basis: TaxBasis
      readonly from: 'product' | 'variant' | 'extra'
      /** Whether it is set in a currency of its own. */
      readonly isOwn: boolean
    }
  | {
      readonly kind: 'list-reference'
      readonly list: string
      readonly amount: Decimal
      readonly currency: string
      readonly basis: TaxBasis
      /** How the other list came to it. */
      readonly steps: readonly TraceStep[]
    }
  | {
      readonly kind: 'adjustments'
      readonly target: 'base' | 'shown'
      readonly applied: readonly { readonly adjustment: string; readonly method: AdjustmentMethod }[]
      /** Ids of those that would have brought the price to zero or below. */
      readonly leftOut: readonly string[]
      readonly amount: Decimal
      readonly currency: string
      readonly basis: TaxBasis
    }
  | {
      readonly kind: 'line'
      readonly at: LineReference
      /** Through which term of the list's audience the buyer is in it; `null` through a contract or another list. */
      readonly audience: WhoTerm | null
      readonly contract: string | null
      /** Through which term of its scope the line reaches the item; `null` for the default line. */
      readonly scope: WhatTerm | null
      readonly rung: Rung | null
      readonly method: PriceMethod
      /** The break reached, when the line has more than one or starts above nothing. */
      readonly reached: {
        readonly from: Decimal
        readonly counting: BreakCounting
        readonly counted: Decimal
      } | null
      readonly amount: Decimal
      readonly currency: string
      readonly basis: TaxBasis
    }
  | {
      readonly kind: 'rounding'
      readonly rule: RoundingRule
      readonly amount: Decimal
      readonly currency: string
      readonly basis: TaxBasis
    }
  /** With its tax, or without: brought to the basis of the list that starts from it. */
  | {
      readonly kind: 'basis'
      readonly from: TaxBasis
      /** Of all taxes together, of the net. */
      readonly percent: Decimal
      readonly amount: Decimal
      readonly currency: string
      readonly basis: TaxBasis
    }
  | {
      readonly kind: 'brackets'
      readonly brackets: readonly { readonly quantity: Decimal; readonly unit: Decimal }[]
      readonly amount: Decimal
      readonly currency: string
      readonly basis: TaxBasis
    }
  | {
      readonly kind: 'conversion'
      readonly from: string
      readonly rates: readonly RateUsed[]
      readonly fee: Decimal
      readonly amount: Decimal
      readonly currency: string
      readonly basis: TaxBasis
    }
  | {
      /** More than can be held exactly: there is no price. */
      readonly kind: 'too-large'
      readonly amount: Decimal
      readonly currency: string
      readonly basis: TaxBasis
    }
  | {
      readonly kind: 'public-price'
      readonly amount: Decimal
      readonly currency: string
      readonly basis: TaxBasis
    }
  /** A person settled it, in a quote or at the desk. */
  | {
      readonly kind: 'settled'
      readonly by: SettledBy
      readonly amount: Decimal
      readonly currency: string
      readonly basis: TaxBasis
    }
  | { readonly kind: 'floor'; readonly amount: Decimal; readonly currency: string; readonly basis: TaxBasis }

/** Why a candidate did not decide the price. */
export type LossReason =
  | NotHolding
  | {
      readonly code: 'contract'
      readonly contract: string
      readonly standing: Exclude<ContractStanding, 'in-force'>
      readonly from: string | null
      readonly to: string | null
    }
  | { readonly code: 'outside-scope' }
  | { readonly code: 'no-line' }
  | { readonly code: 'excluded-item'; readonly by: WhatTerm }
  | {
      readonly code: 'line-not-now'
      readonly because: Extract<WhenMatch, { matches: false }>['because']
      readonly from: string | null
      readonly to: string | null
    }
  | { readonly code: 'below-first-break'; readonly from: Decimal; readonly counted: Decimal }
  | { readonly code: 'no-reference'; readonly reference: PriceReference }
  | { readonly code: 'no-rate'; readonly from: string; readonly to: string }
  | { readonly code: 'not-above-zero'; readonly method: PriceMethod }
  | { readonly code: 'less-specific-line'; readonly than: LineReference }
  | { readonly code: 'later-line'; readonly than: LineReference }
  | { readonly code: 'lower-rung'; readonly rung: Rung; readonly winner: Rung }
  | { readonly code: 'later-contract'; readonly rank: number; readonly winner: number }
  | { readonly code: 'later-in-contract'; readonly place: number; readonly winner: number }
  | { readonly code: 'later-rank'; readonly rank: number; readonly winner: number }
  | { readonly code: 'foreign-currency'; readonly currency: string; readonly winner: string }
  | { readonly code: 'less-specific-list'; readonly winner: LineReference }
  | { readonly code: 'earlier-start'; readonly winner: LineReference }
  | { readonly code: 'later-code'; readonly winner: LineReference }
  | { readonly code: 'not-lowest'; readonly winner: Decimal; readonly basis: TaxBasis }

/** A list or line that could have decided the price and did not. */
export interface Loser {
  readonly at: LineReference
  /** The contract that leads to the list. */
  readonly contract: string | null
  readonly reason: LossReason
  /** The price it would have given this buyer, had it won, in its own basis; `null` when it would have given none. */
  readonly price: Decimal | null
  readonly basis: TaxBasis
}

/** An adjustment that did not move the price, and why. */
export interface IdleAdjustment {
  readonly adjustment: string
  readonly reason:
    | NotHolding
    | { readonly code: 'not-for-item' }
    | { readonly code: 'protected'; readonly contract: string }
    /** It would have brought the price to zero or below, and is left out. */
    | { readonly code: 'nothing-left' }
    /** The price does not start from the base price. */
    | { readonly code: 'not-from-base' }
}

export type Winner =
  | { readonly kind: 'list'; readonly at: LineReference; readonly contract: string | null }
  | { readonly kind: 'base' }
  | { readonly kind: 'none' }

/** Everything that made a price, and everything that did not, as data. */
export interface Trace {
  readonly winner: Winner
  readonly policy: 'first' | 'lowest'
  readonly steps: readonly TraceStep[]
  readonly losers: readonly Loser[]
  readonly idleAdjustments: readonly IdleAdjustment[]
}

/** From a quantity on, what each costs. */
export interface BreakRow {
  readonly from: Decimal
  readonly unit: Decimal
  readonly basis: TaxBasis
  /** The same after promotions on item prices; `null` where they change nothing. */
  readonly promoted: BasedAmount | null
}

/** One unit's price for one buyer. */
export interface Answer {
  readonly currency: string
  readonly currencyFrom: 'asked' | 'contract' | 'account' | 'region' | 'store'
  /** Whether the item is shown, its price is, it may be bought, and a quote be asked for; and what keeps it from being so. */
  readonly see: boolean
  readonly seePrice: boolean
  readonly buy: boolean
  readonly quote: boolean
  readonly because: AccessReason | { readonly code: 'no-price' } | null
  readonly access: Access
  readonly limits: FoundLimits
  /** Of one piece with its extras; `null` without a price. */
  readonly tax: PriceTax | null
  /** The item with its extras; `null` when there is neither a list price nor a base price. */
  readonly unit: Decimal | null
  /** Whether `unit`, `item` and `total` contain their tax. */
  readonly basis: TaxBasis
  /** The item alone. */
  readonly item: Decimal | null
  readonly extras: readonly {
    readonly extra: string
    /** In the basis the extra has by itself. */
    readonly unit: BasedAmount | null
  }[]
  /** For the quantity asked, exactly: units of different brackets cost what their bracket says. */
  readonly total: Decimal | null
  /** Where on the ladder the price comes from; `null` for the base price (or none). */
  readonly entry: LadderEntry | null
  /** What the price is compared with, where it is lower. */
  readonly was: BasedAmount | null
  /** After promotions on item prices that hold whatever else is bought; `null` where they change nothing. */
  readonly promoted: PromotedAmount | null
  /** What the buyer pays from which quantity on; empty when the quantity does not matter. */
  readonly breaks: readonly BreakRow[]
}

/** The same with why, and why not otherwise. */
export interface ExplainedAnswer extends Answer {
  /** Every access rule and how it stood. */
  readonly accessRules: readonly RuleStood[]
  /** Every limit rule and how it stood. */
  readonly limitRules: readonly RuleStood[]
  readonly extras: readonly (Answer['extras'][number] & { readonly trace: Trace })[]
  readonly trace: Trace
}
