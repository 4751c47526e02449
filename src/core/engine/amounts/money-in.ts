import { type Fraction, toFraction } from '../../decimal/fraction'
import type { Money } from '../../promotions/promotion'
import { getSettings } from '../../store/store'
import { fromHome } from '../context/currency-view'
import type { PreparedStore } from '../context/prepared-store'
import type { PricingContext } from '../context/pricing-context'

/**
 * An amount in a buyer's currency: the one set for it, else converted as prices are, to so many digits.
 *
 * Errors  `null` without a rate.
 */
export function moneyIn(
  prepared: PreparedStore,
  { currency, currencyView }: PricingContext,
  { amount, own }: Money,
  digits: number,
): Fraction | null {
  const set = own[currency]
  if (set !== undefined) return toFraction(set)
  if (currency === getSettings(prepared.store).currency) return toFraction(amount)
  const converted = fromHome(prepared, currencyView, amount, digits)
  return converted === null ? null : toFraction(converted)
}
