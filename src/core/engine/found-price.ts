import type { LadderEntry } from './situation'

/** A price found by looking up, without its trace. */
export interface FoundPrice {
  /** In smallest units of the situation's currency; NaN where there is no price. */
  readonly units: number
  /** The list that decided; `null` for the base price (or none). */
  readonly entry: LadderEntry | null
  /** Position of the line in its list. */
  readonly line: number
  /** Whether a guest pays less, and so this buyer too. */
  readonly isPublic: boolean
  /** Before adjustments of the price shown, the public price and the floor. */
  readonly unadjusted: number
}
