import type { TaxBasis } from '../../price/based-amount'
import type { BasedUnits } from '../lists/based-units'
import type { LadderEntry } from './pricing-context'

/** A price found by looking up, without its trace. */
export interface FoundPrice extends BasedUnits {
  /** In smallest units of the pricing context's currency; NaN where there is no price. */
  readonly units: number
  /** Of the list that decided; of the base price and of a floor the store's. */
  readonly basis: TaxBasis
  /** The list that decided; `null` for the base price (or none). */
  readonly entry: LadderEntry | null
  /** Position of the line in its list. */
  readonly line: number
  /** Whether a guest pays less, and so this buyer too. */
  readonly isPublic: boolean
  /** Whether it was raised to the floor. */
  readonly isFloor: boolean
  /** Before adjustments of the price shown, the public price and the floor; in the basis of the list. */
  readonly unadjusted: number
}
