import { type Fraction, multiplyFractions } from '../../decimal/fraction'
import { powerOfTen } from '../../decimal/decimal'
import { aboveZero, adjustmentOperation, holdingItem, roundingOfLast } from '../amounts/adjust'
import { factorBetween, storeBasis } from '../amounts/basis'
import { factsOf } from '../items/catalogue-index'
import { breakAt } from '../lists/compiled-line'
import { graduatedAverage, type Quantities } from './find-in-list'
import { findPrice } from './find-price'
import type { FoundPrice } from '../context/found-price'
import { applyOperation } from '../lists/operation'
import type { PreparedStore } from '../context/prepared-store'
import type { PricingContext } from '../context/pricing-context'

/** A unit price that is exact, and what else was bought under the same brackets. */
export interface ExactUnit {
  /** Currency units. */
  readonly unit: Fraction
  /** The same for everything whose quantity was counted together into these brackets. */
  readonly brackets: string
}

/**
 * What one unit costs before it is rounded to be shown, in currency units: under graduated brackets the average, as the
 * chain after the list leaves it. Totals are made of it, so that they are exact however the quantity is spread.
 *
 * Errors  `null` where the price shown is all there is to know: no brackets, or a rounding rule, the floor or the
 *         public price came after them and made another price.
 */
export function findExactUnit(
  prepared: PreparedStore,
  pricingContext: PricingContext,
  number: number,
  quantities: Quantities,
  found: FoundPrice,
): ExactUnit | null {
  const { entry, line: position, isPublic, isFloor } = found
  if (isFloor) return null
  if (isPublic) {
    const guests = pricingContext.publicPricingContext as PricingContext
    return findExactUnit(
      prepared,
      guests,
      number,
      quantities,
      findPrice(prepared, guests, number, quantities),
    )
  }
  if (!entry) return null
  const { compiled, currencyView, contract } = entry
  const line = compiled.line(position)
  if (!line.isGraduated) return null
  const counted = quantities.counted?.(compiled, line, number) ?? quantities.own
  if (breakAt(line, counted) <= 0) return null
  const average = graduatedAverage(prepared, currencyView, compiled, line, number, quantities)
  if (!average) return null
  const unit = multiplyFractions(average, { numerator: 1n, denominator: powerOfTen(pricingContext.digits) })
  const after = contract?.isProtected
    ? unit
    : adjusted(prepared, pricingContext, number, compiled.basis, unit)
  return after && { unit: after, brackets: `${compiled.list.id}/${position}/${counted}` }
}

/** After adjustments of the price shown; `null` when one of them rounds by a rule of its own. */
function adjusted(
  prepared: PreparedStore,
  { currencyView, shown }: PricingContext,
  number: number,
  basis: FoundPrice['basis'],
  unit: Fraction,
): Fraction | null {
  if (shown.length === 0) return unit
  const some = holdingItem(shown, factsOf(prepared.store, prepared.index, number))
  const factor = factorBetween(prepared, currencyView, number, storeBasis(prepared), basis)
  const operations = some.map((each) =>
    adjustmentOperation(prepared, currencyView, each, factor, { source: 0, target: 0 }),
  )
  const kept = aboveZero(operations, unit)
  if (roundingOfLast(some.filter((_, at) => kept[at])) !== null) return null
  return operations.reduce<Fraction>(
    (value, operation, at) => (operation && kept[at] ? applyOperation(operation, value) : value),
    unit,
  )
}
