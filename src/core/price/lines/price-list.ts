import type { RoundingRule } from '../../decimal/rounding'
import type { Status } from '../../issue/issue'
import type { What } from '../../predicates/what'
import type { Schedule } from '../../predicates/when'
import type { Where } from '../../predicates/where'
import type { Who } from '../../predicates/who'
import type { TaxBasis } from '../based-amount'
import type { Breaks } from './price-method'

export const PURPOSES = ['level', 'wholesale', 'contract', 'promotional', 'other'] as const
export type Purpose = (typeof PURPOSES)[number]

/** Prices for an audience. Its lines are records of their own, so that each has its own history. */
export interface PriceList {
  readonly id: string
  readonly code: string
  readonly name: string
  readonly purpose: Purpose
  readonly state: 'on' | 'off'
  readonly status: Status
  /** ISO 4217, of its fixed amounts and computed prices. */
  readonly currency: string
  /** Whether its amounts already contain their tax; `null` is as the store says. */
  readonly taxBasis: TaxBasis | null
  /** Nobody, for a list that is only reached through contracts. */
  readonly audience: Who
  /** The part of the catalogue it speaks of at all. */
  readonly scope: What
  readonly place: Where
  readonly schedule: Schedule
  /** On one rung of the ladder, 1 comes before 2. */
  readonly rank: number
  /** What happens to everything no line speaks of; `null` leaves it to the next list. */
  readonly defaultLine: Breaks | null
  /** How computed prices are rounded; `null` means to the currency's smallest unit. Fixed amounts stay. */
  readonly rounding: RoundingRule | null
  /** Whether its buyers are offered, of its scope, only what a line speaks of. */
  readonly onlyListed: boolean
}

export interface PriceLine extends Breaks {
  readonly id: string
  readonly list: string
  /** Of two lines equally specific, the one with the lower position wins. */
  readonly position: number
  readonly scope: What
  /** Beside the list's own; `null` is whenever the list holds. */
  readonly schedule: Schedule | null
  /** Instead of the list's rounding. */
  readonly rounding: RoundingRule | null
}

/** The order lines of a list are asked in when they are equally specific. */
export function compareLines(left: PriceLine, right: PriceLine): number {
  return left.position - right.position || (left.id < right.id ? -1 : 1)
}
