import type { Decimal } from '../decimal/decimal'
import type { RoundingRule } from '../decimal/rounding'
import type { What } from '../predicates/what'
import type { Rule } from '../rules/rule'

/** An amount in the store's currency, and what stands in its place in others instead of the converted one. */
export interface Money {
  readonly amount: Decimal
  /** By ISO 4217 code. */
  readonly own: Readonly<Record<string, Decimal>>
}

/** What is taken off; all of it above zero. */
export type Saving =
  | { readonly kind: 'percent'; readonly percent: Decimal }
  | { readonly kind: 'amount'; readonly amount: Money }
  /** What is paid instead. */
  | { readonly kind: 'price'; readonly price: Money }

/** A part of a set: so many whole units of what a scope holds; `null` is all the promotion is for. */
interface SetPart {
  readonly count: number
  readonly scope: What | null
}

export type SetSaving =
  | Saving
  /** The cheapest so many of each set. */
  | { readonly kind: 'cheapest-free'; readonly count: number }

/** From so many bought on, so many more are free. */
export interface FreeBracket {
  readonly from: number
  readonly free: number
}

/** From an order value on, before this promotion. */
interface OrderBracket {
  readonly from: Money | null
  readonly saving: Exclude<Saving, { readonly kind: 'price' }>
}

export const PROMOTION_KINDS = [
  'item-price',
  'by-quantity',
  'set',
  'free-goods',
  'order',
  'delivery',
  'payment',
] as const
export type PromotionKind = (typeof PROMOTION_KINDS)[number]

/** What a promotion does. */
export type PromotionValue =
  /** On every unit. `closes` keeps other promotions off these units. */
  | { readonly kind: 'item-price'; readonly saving: Saving; readonly closes: boolean }
  /** From so many units of the scope together: each of all, or only each of those above. */
  | {
      readonly kind: 'by-quantity'
      readonly from: Decimal
      readonly applies: 'all' | 'above'
      readonly saving: Saving
    }
  | { readonly kind: 'set'; readonly parts: readonly SetPart[]; readonly saving: SetSaving }
  | {
      readonly kind: 'free-goods'
      /** Rising. */
      readonly brackets: readonly FreeBracket[]
      /** More of the same, one of those bought (the cheapest), or another variant by its id. */
      readonly gift: 'same' | 'bought' | { readonly variant: string }
      /** For each time the bracket is reached, or only once. */
      readonly repeats: boolean
    }
  /** Rising; the highest that is reached counts. */
  | { readonly kind: 'order'; readonly brackets: readonly OrderBracket[] }
  | { readonly kind: 'delivery'; readonly saving: Saving | { readonly kind: 'free' } }
  /** For who pays so. A surcharge is added instead of taken off. */
  | {
      readonly kind: 'payment'
      readonly payment: Payment
      readonly saving: Exclude<Saving, { readonly kind: 'price' }>
      readonly isSurcharge: boolean
    }

export const PAYMENTS = ['card', 'terms'] as const
/** By card, or on the terms agreed. */
export type Payment = (typeof PAYMENTS)[number]

/** What must be so; of what the scope holds, or of the whole cart. */
export type Condition =
  | { readonly kind: 'value'; readonly from: Money; readonly of: 'scope' | 'cart' }
  | { readonly kind: 'quantity'; readonly from: Decimal; readonly of: 'scope' | 'cart' }
  /** Kilograms. */
  | { readonly kind: 'weight'; readonly from: Decimal; readonly of: 'scope' | 'cart' }
  /** Orders so far, or within so many days; cancelled ones do not count. */
  | { readonly kind: 'orders'; readonly from: number; readonly days: number | null }
  /** What they came to, without tax. */
  | { readonly kind: 'spend'; readonly from: Money; readonly days: number | null }
  | { readonly kind: 'first-order' }
  | { readonly kind: 'payment'; readonly payment: Payment }
  /** Typed by the buyer, in any case. */
  | { readonly kind: 'code'; readonly code: string }

/** How often it may be used; `null` is as often as it fits. */
export interface UseLimits {
  readonly total: number | null
  readonly perBuyer: number | null
  /** Of a set each set is a use, of anything else each order. */
  readonly perOrder: number | null
  readonly perDay: number | null
}

export const NO_USE_LIMITS: UseLimits = { total: null, perBuyer: null, perOrder: null, perDay: null }

/** A rule that changes what a cart costs. Its rank is its priority: 1 is considered first. */
export interface Promotion extends Rule {
  readonly value: PromotionValue
  /** All of them must hold. */
  readonly conditions: readonly Condition[]
  /** Promotions that say the same word may use the same units; empty combines with none. */
  readonly combines: string
  readonly uses: UseLimits
  /** Proposed, and only applied when the buyer or clerk takes it. */
  readonly isOffer: boolean
  /** Whether the shop says it is there before a cart has it. */
  readonly isAnnounced: boolean
  /** How a saving is rounded; `null` means to the smallest unit. */
  readonly rounding: RoundingRule | null
}

/** Codes are typed in any case, with or without blanks around them. */
export function sameCode(one: string, other: string): boolean {
  return one.trim().toLowerCase() === other.trim().toLowerCase()
}

/** The promotion in use that asks for a code; `undefined` where none does. `isSame` may compare with more care than whatever capitals. */
export function promotionWithCode(
  promotions: Iterable<Promotion>,
  typed: string,
  isSame: (code: string, typed: string) => boolean = sameCode,
): Promotion | undefined {
  return [...promotions].find(
    ({ state, status, conditions }) =>
      state === 'on' &&
      status === 'active' &&
      conditions.some((condition) => condition.kind === 'code' && isSame(condition.code, typed)),
  )
}
