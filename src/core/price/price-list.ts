import type { Decimal } from '../decimal/decimal'
import type { RoundingRule } from '../decimal/rounding'
import type { What } from '../predicates/what'
import type { Who } from '../predicates/who'

/** How a line makes a price. Percent and amount are signed: −10 is ten off. */
export type PriceMethod =
  | { readonly kind: 'fixed'; readonly amount: Decimal }
  | { readonly kind: 'percent'; readonly percent: Decimal; readonly reference: 'base' }
  | { readonly kind: 'amount'; readonly amount: Decimal; readonly reference: 'base' }

export const PURPOSES = ['level', 'wholesale', 'contract', 'promotional', 'other'] as const
export type Purpose = (typeof PURPOSES)[number]

/** Prices for an audience. Its lines are records of their own, so that each has its own history. */
export interface PriceList {
  readonly id: string
  readonly code: string
  readonly name: string
  readonly purpose: Purpose
  readonly state: 'on' | 'off'
  readonly audience: Who
  /** On one rung of the ladder, 1 comes before 2. */
  readonly rank: number
  /** What happens to everything no line speaks of; `null` leaves it to the next list. */
  readonly defaultLine: PriceMethod | null
  /** How computed prices are rounded; `null` means to the currency's smallest unit. Fixed amounts stay. */
  readonly rounding: RoundingRule | null
}

export interface PriceLine {
  readonly id: string
  readonly list: string
  /** Of two lines equally specific, the one with the lower position wins. */
  readonly position: number
  readonly scope: What
  readonly method: PriceMethod
  /** Instead of the list's rounding. */
  readonly rounding: RoundingRule | null
}

/** The order lines of a list are asked in when they are equally specific. */
export function compareLines(left: PriceLine, right: PriceLine): number {
  return left.position - right.position || (left.id < right.id ? -1 : 1)
}
