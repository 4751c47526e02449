import type { PreparedStore } from '../engine/context/prepared-store'
import type { PricingContext } from '../engine/context/pricing-context'
import { leviesOf } from '../engine/rules/find-tax'

/** The same for buyers who pay the same taxes on every class of goods. */
export function taxWord(prepared: PreparedStore, pricingContext: PricingContext): string {
  const { untaxed } = pricingContext.terms
  if (untaxed) return untaxed
  const classes = [null, ...prepared.store['tax-class'].keys()]
  return classes
    .map((taxClass) =>
      leviesOf(prepared, pricingContext, taxClass)
        .levies.map(({ tax, percent }) => `${tax.id}=${percent}`)
        .join(),
    )
    .join(';')
}
