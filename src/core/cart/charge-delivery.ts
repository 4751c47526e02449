import { allocate } from '../decimal/allocate'
import { add, compare, type Decimal, sum, ZERO } from '../decimal/decimal'
import { fromHome } from '../engine/context/currency-view'
import type { PreparedStore } from '../engine/context/prepared-store'
import type { PricingContext } from '../engine/context/pricing-context'
import { leviesOf, type TaxableAmount } from '../engine/rules/find-tax'
import { getSettings } from '../store/store'

/** Goods as a charge is spread over them. */
export interface ChargedGoods {
  readonly taxClass: string | null
  readonly net: Decimal
}

/** What delivery costs without tax, before promotions; `null` where nothing is charged, or there is no rate. */
export function deliveryPrice(
  prepared: PreparedStore,
  { currencyView }: Pick<PricingContext, 'currencyView'>,
  goods: readonly ChargedGoods[],
  digits: number,
): Decimal | null {
  const { deliveryPrice: price, deliveryFreeFrom } = getSettings(prepared.store)
  if (price === null || goods.length === 0) return null
  const free = deliveryFreeFrom === null ? null : fromHome(prepared, currencyView, deliveryFreeFrom, digits)
  if (free !== null && compare(sum(goods.map(({ net }) => net)), free) >= 0) return null
  return fromHome(prepared, currencyView, price, digits)
}

/** Delivery by the levies it stands under: its own class, or the classes of the goods. */
export function taxableDelivery(
  prepared: PreparedStore,
  pricingContext: PricingContext,
  price: Decimal,
  goods: readonly ChargedGoods[],
  digits: number,
): readonly TaxableAmount[] {
  const { deliveryTaxClass } = getSettings(prepared.store)
  const own = deliveryTaxClass === null ? goods : [{ taxClass: deliveryTaxClass, net: price }]
  return taxableCharge(prepared, pricingContext, price, own, digits, true)
}

/**
 * A charge under the classes of the goods, by their net; below zero it is taken off.
 *
 * Source  Directive 2006/112/EC Art. 78(b): what is charged for transport belongs to the taxable amount of the goods
 *         (from memory); apportioned by net value, common practice.
 */
export function taxableCharge(
  prepared: PreparedStore,
  pricingContext: PricingContext,
  price: Decimal,
  goods: readonly ChargedGoods[],
  digits: number,
  isDelivery = false,
): readonly TaxableAmount[] {
  const part = (amount: Decimal, taxClass: string | null): TaxableAmount => ({
    amount,
    basis: 'net',
    levies: pricingContext.terms.untaxed
      ? []
      : leviesOf(prepared, pricingContext, taxClass, isDelivery).levies,
  })
  const nets = new Map<string | null, Decimal>()
  for (const { taxClass, net } of goods) nets.set(taxClass, add(nets.get(taxClass) ?? ZERO, net))
  const classes = [...nets.keys()]
  const weights = classes.map((taxClass) => nets.get(taxClass) as Decimal)
  if (weights.every((weight) => weight === ZERO)) return [part(price, classes[0] ?? null)]
  return allocate(price, weights, digits).map((share, at) => part(share, classes[at] ?? null))
}
