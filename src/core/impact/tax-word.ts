import type { PreparedStore } from '../engine/context/prepared-store'
import type { PricingContext } from '../engine/context/pricing-context'
import { sharedMemory } from '../maps/shared-memory'
import { leviesOf } from '../engine/rules/find-tax'

const WORDS = sharedMemory('tax-words', () => new WeakMap<PreparedStore, WeakMap<PricingContext, string>>())

/** The same for buyers who pay the same taxes on every class of goods; kept as long as both. */
export function taxWord(prepared: PreparedStore, pricingContext: PricingContext): string {
  const known = WORDS.get(prepared) ?? new WeakMap<PricingContext, string>()
  WORDS.set(prepared, known)
  let word = known.get(pricingContext)
  if (word === undefined) known.set(pricingContext, (word = findTaxWord(prepared, pricingContext)))
  return word
}

function findTaxWord(prepared: PreparedStore, pricingContext: PricingContext): string {
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
