import { storeBasis } from './basis'
import { explainLine } from './explain-price'
import { explainAdjustments, type Explained, explainReference } from './explain-reference'
import type { Quantities } from './find-in-list'
import { findPrice } from './find-price'
import type { FoundPrice } from './found-price'
import type { PreparedStore } from './prepared-store'
import { fromUnits } from './price-step'
import type { Situation } from './situation'
import type { TraceStep } from './trace'

/** The steps to a price found, explained without the engine's fast way. */
export function explainFound(
  prepared: PreparedStore,
  situation: Situation,
  number: number,
  quantities: Quantities,
  { entry, line, isPublic, isFloor, units }: FoundPrice,
): readonly TraceStep[] {
  const { lens, currency, digits } = situation
  const explained: Explained | null = entry
    ? explainLine(prepared, entry.lens, entry.compiled, line, number, quantities, entry)
    : explainReference(prepared, lens, 'basePrice', number)
  if (!explained) return []
  const adjustments = entry?.contract?.isProtected ? [] : situation.shown
  const adjusted = explainAdjustments(prepared, lens, adjustments, number, explained, 'shown')
  const steps = [...adjusted.steps]
  if (Number.isNaN(units)) return steps
  if (isPublic && situation.publicSituation) {
    const guest = findPrice(prepared, situation.publicSituation, number, quantities)
    const { basis } = guest
    steps.push({ kind: 'public-price', amount: fromUnits(guest.units, digits), currency, basis })
  }
  if (isFloor)
    steps.push({ kind: 'floor', amount: fromUnits(units, digits), currency, basis: storeBasis(prepared) })
  return steps
}
