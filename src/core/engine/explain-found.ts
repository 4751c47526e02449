import { compare, type Decimal, multiply, sum, ZERO } from '../decimal/decimal'
import { explainLine } from './explain-price'
import { explainAdjustments, type Explained, explainReference } from './explain-reference'
import type { Quantities } from './find-in-list'
import { findPrice, floorUnits } from './find-price'
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
  { entry, line, isPublic, units }: FoundPrice,
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
  let amount = adjusted.amount ?? ZERO
  if (isPublic && situation.publicSituation) {
    const guest = findPrice(prepared, situation.publicSituation, number, quantities).units
    amount = fromUnits(guest, digits)
    steps.push({ kind: 'public-price', amount, currency })
  }
  const floor = floorUnits(prepared, situation, number)
  if (Number.isFinite(floor) && compare(amount, fromUnits(floor, digits)) < 0)
    steps.push({ kind: 'floor', amount: fromUnits(floor, digits), currency })
  return steps
}

/**
 * Units of graduated brackets cost what their bracket says, as long as nothing after the list moved the price, and
 * nothing else bought counts with them; `null` where it did, or there are no brackets.
 */
export function bracketsTotal(steps: readonly TraceStep[], quantity: Decimal): Decimal | null {
  const last = steps.at(-1)
  const counted = steps.findLast((step) => step.kind === 'line')?.reached?.counted
  if (last?.kind !== 'brackets' || counted !== quantity) return null
  return sum(last.brackets.map((bracket) => multiply(bracket.quantity, bracket.unit)))
}
