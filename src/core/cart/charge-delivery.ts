import { allocate } from '../decimal/allocate'
import { add, compare, type Decimal, sum, ZERO } from '../decimal/decimal'
import { fromHome } from '../engine/context/currency-view'
import type { PreparedStore } from '../engine/context/prepared-store'
import type { PricingContext } from '../engine/context/pricing-context'
import { leviesOf, type TaxableAmount } from '../engine/rules/find-tax'
import { getSettings } from '../store/store'

/**
 * Delivery by the levies it stands under: its own class, or the classes of the goods by their net.
 *
 * Source  Directive 2006/112/EC Art. 78(b): what is charged for transport belongs to the taxable amount of the goods
 *         (from memory); apportioned by net value, common practice.
 */
export function chargeDelivery(
  prepared: PreparedStore,
  pricingContext: PricingContext,
  goods: readonly { readonly taxClass: string | null; readonly net: Decimal }[],
  digits: number,
): readonly TaxableAmount[] {
  const { deliveryPrice, deliveryFreeFrom, deliveryTaxClass } = getSettings(prepared.store)
  if (deliveryPrice === null || goods.length === 0) return []
  const free =
    deliveryFreeFrom === null
      ? null
      : fromHome(prepared, pricingContext.currencyView, deliveryFreeFrom, digits)
  const price = fromHome(prepared, pricingContext.currencyView, deliveryPrice, digits)
  if (price === null || (free !== null && compare(sum(goods.map(({ net }) => net)), free) >= 0)) return []
  const part = (amount: Decimal, taxClass: string | null): TaxableAmount => ({
    amount,
    basis: 'net',
    levies: pricingContext.terms.untaxed ? [] : leviesOf(prepared, pricingContext, taxClass, true).levies,
  })
  if (deliveryTaxClass !== null) return [part(price, deliveryTaxClass)]
  const nets = new Map<string | null, Decimal>()
  for (const { taxClass, net } of goods) nets.set(taxClass, add(nets.get(taxClass) ?? ZERO, net))
  const classes = [...nets.keys()]
  const weights = classes.map((taxClass) => nets.get(taxClass) as Decimal)
  if (weights.every((weight) => weight === ZERO)) return [part(price, classes[0] ?? null)]
  return allocate(price, weights, digits).map((share, at) => part(share, classes[at] ?? null))
}
