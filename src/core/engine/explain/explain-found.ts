import { storeBasis } from '../amounts/basis'
import { explainLine } from './explain-price'
import { explainAdjustments, type Explained, explainReference } from './explain-reference'
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
  const adjustments = entry?.contract?.isProtected ? [] : pricingContext.shown
  const adjusted = explainAdjustments(prepared, currencyView, adjustments, number, explained, 'shown')
  const steps = [...adjusted.steps]
  if (Number.isNaN(units)) return steps
  if (isPublic && pricingContext.publicPricingContext) {
    const guest = findPrice(prepared, pricingContext.publicPricingContext, number, quantities)
    const { basis } = guest
    steps.push({ kind: 'public-price', amount: fromUnits(guest.units, digits), currency, basis })
  }
  if (isFloor)
    steps.push({ kind: 'floor', amount: fromUnits(units, digits), currency, basis: storeBasis(prepared) })
  return steps
}
