import type { Decimal } from '../../decimal/decimal'
import type { TaxBasis } from '../../price/based-amount'

/** A price found in smallest units, which knows whether it contains its tax. */
export interface BasedUnits {
  readonly units: number
  readonly basis: TaxBasis
}

/**
 * The taxes by which amounts with and without tax are brought to one basis, at one place and time: those an ordinary
 * buyer would pay, also for who is exempt.
 */
export interface BasisRates {
  /** Two with one key give the same factors. */
  readonly key: string
  /** By the id of the tax class, '' for none: what the taxes come to, in percent of the net. */
  readonly percents: ReadonlyMap<string, Decimal>
}
