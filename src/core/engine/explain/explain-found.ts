import { storeBasis } from '../amounts/basis'
import { explainLine } from './explain-price'
import { explainAdjustments, type Explained, explainReference } from './explain-reference'
import { AFTER_LIST, type AfterList } from '../price/after-list'
import type { Quantities } from '../price/find-in-list'
import { findPrice } from '../price/find-price'
import type { FoundPrice } from '../context/found-price'
import type { PreparedStore } from '../context/prepared-store'
import { fromUnits } from '../lists/price-step'
import type { PricingContext } from '../context/pricing-context'
import type { TraceStep } from './trace'

/** The steps to a price found, explained without the engine's fast way. */
export function explainFound(
  prepared: PreparedStore,
  pricingContext: PricingContext,
  number: number,
  quantities: Quantities,
  { entry, line, isPublic, isFloor, units }: FoundPrice,
): readonly TraceStep[] {
  const { currencyView, currency, digits } = pricingContext
  const explained: Explained | null = entry
    ? explainLine(prepared, entry.currencyView, entry.compiled, line, number, quantities, entry)
    : explainReference(prepared, currencyView, 'basePrice', number)
  if (!explained) return []
  const stepsOf: Readonly<Record<AfterList, () => readonly TraceStep[]>> = {
    'shown-adjustments': () => {
      const adjustments = entry?.contract?.isProtected ? [] : pricingContext.shown
      return explainAdjustments(prepared, currencyView, adjustments, number, explained, 'shown').steps
    },
    'public-price': () => {
      if (!isPublic || !pricingContext.publicPricingContext) return []
      const guest = findPrice(prepared, pricingContext.publicPricingContext, number, quantities)
      const { basis } = guest
      return [{ kind: 'public-price', amount: fromUnits(guest.units, digits), currency, basis }]
    },
    floor: () =>
      isFloor
        ? [{ kind: 'floor', amount: fromUnits(units, digits), currency, basis: storeBasis(prepared) }]
        : [],
  }
  // Where adjustments leave no price, nothing comes after them.
  const stages = Number.isNaN(units) ? AFTER_LIST.slice(0, 1) : AFTER_LIST
  return stages.flatMap((stage) => stepsOf[stage]())
}
