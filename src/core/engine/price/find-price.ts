import { ZERO } from '../../decimal/decimal'
import { roundToDigits } from '../../decimal/rounding'
import { adjustedBy } from '../amounts/adjust'
import { amountAt, ownAmounts, referenceAmounts, setsAny } from '../amounts/amounts'
import type { BasedUnits } from '../lists/based-units'
import { AFTER_LIST } from './after-list'
import { comparePrices, storeBasis } from '../amounts/basis'
import { emptyListPrice, findInList, type ListPrice, type Quantities } from './find-in-list'
import { toUnits } from '../lists/operation'
import { currencyViewInto } from '../context/currency-view'
import { nextStep, reachOf } from '../amounts/naming-index'
import { type LadderIndex, UNSEARCHED } from '../lists/ladder-index'
import type { FoundPrice } from '../context/found-price'
import type { Amounts } from '../context/prepared-amounts'
import type { PreparedStore } from '../context/prepared-store'
import { PriceMemory } from '../context/price-memory'
import type { LadderEntry, PricingContext } from '../context/pricing-context'
import { findConversion } from '../../currency/currency'
import { toFraction } from '../../decimal/fraction'
import { getSettings } from '../../store/store'
import { fromUnits } from '../lists/price-step'

/** One piece of one thing. */
export const ONE_PIECE: Quantities = { own: 1000, counted: null }

/** What one buyer pays for one item, by its number. */
export function findPrice(
  prepared: PreparedStore,
  pricingContext: PricingContext,
  number: number,
  quantities: Quantities = ONE_PIECE,
): FoundPrice {
  const reach = reachOf(prepared, pricingContext)
  // What is bought with it may change from question to question.
  if (quantities.counted) return lookUpPrice(prepared, pricingContext, reach, number, quantities)
  const memory = (prepared.memory.current ??= new PriceMemory())
  return (
    memory.recall(reach, number, quantities.own) ??
    memory.keep(
      reach,
      number,
      quantities.own,
      lookUpPrice(prepared, pricingContext, reach, number, quantities),
    )
  )
}

/** The same without asking whether it was found lately, for whoever asks for everything once. */
export function lookUpPrice(
  prepared: PreparedStore,
  pricingContext: PricingContext,
  reach: LadderIndex,
  number: number,
  quantities: Quantities,
): FoundPrice {
  const won = findOnLadder(prepared, pricingContext, reach, number, quantities)
  const unadjusted = won
    ? scratch.units
    : amountAt(referenceAmounts(prepared, 'basePrice', pricingContext.currencyView), number)
  const line = won ? scratch.line : -1
  const listBasis = won ? won.compiled.basis : storeBasis(prepared)
  if (unadjusted !== unadjusted) return noPrice(listBasis, null, line, unadjusted)
  let units = unadjusted
  let basis = listBasis
  let isPublic = false
  let isFloor = false
  for (const stage of AFTER_LIST) {
    switch (stage) {
      case 'shown-adjustments':
        if (pricingContext.shown.length > 0 && !won?.contract?.isProtected)
          units = adjustShown(prepared, pricingContext, number, { units, basis })
        if (units !== units) return noPrice(listBasis, won, line, unadjusted)
        break
      case 'public-price': {
        const { publicPricingContext } = pricingContext
        if (!publicPricingContext) break
        const guest = findPrice(prepared, publicPricingContext, number, quantities)
        if (!isCheaper(prepared, pricingContext, number, guest, { units, basis })) break
        ;({ units, basis } = guest)
        isPublic = true
        break
      }
      case 'floor': {
        if (!reach.hasFloors) break
        const floor = floorUnits(prepared, pricingContext, number)
        if (!isBelowFloor(prepared, pricingContext, number, { units, basis }, floor)) break
        units = floor
        basis = storeBasis(prepared)
        isFloor = true
      }
    }
  }
  return { units, basis, entry: won, line, isPublic, isFloor, unadjusted }
}

function noPrice(
  basis: FoundPrice['basis'],
  entry: LadderEntry | null,
  line: number,
  unadjusted: number,
): FoundPrice {
  return { units: Number.NaN, basis, entry, line, isPublic: false, isFloor: false, unadjusted }
}

/** Whether there is a price and it is below another of the same item. */
export function isCheaper(
  prepared: PreparedStore,
  { currencyView }: PricingContext,
  number: number,
  price: BasedUnits,
  than: BasedUnits,
): boolean {
  return price.units === price.units && comparePrices(prepared, currencyView, number, price, than) < 0
}

/** Whether a price is below a floor, which has the basis of the store; −infinity is no floor. */
export function isBelowFloor(
  prepared: PreparedStore,
  { currencyView }: PricingContext,
  number: number,
  price: BasedUnits,
  floor: number,
): boolean {
  if (floor === Number.NEGATIVE_INFINITY) return false
  return (
    comparePrices(prepared, currencyView, number, price, { units: floor, basis: storeBasis(prepared) }) < 0
  )
}

/** The price in smallest units that `findOnLadder` found; the same object is used again by every call. */
const scratch = emptyListPrice()

/** The list that decides for an item; what it gives is left in `scratch`. */
function findOnLadder(
  prepared: PreparedStore,
  pricingContext: PricingContext,
  reach: LadderIndex,
  number: number,
  quantities: Quantities,
): LadderEntry | null {
  if (pricingContext.policy === 'lowest') return findLowest(prepared, pricingContext, number, quantities)
  const { ladder } = pricingContext
  for (let at = nextStep(prepared, pricingContext, reach, number, 0); at < ladder.length;) {
    const step = ladder[at] as readonly LadderEntry[]
    const won = bestOfStep(prepared, step, number, quantities, scratch, reach.place)
    if (won) return won
    at = nextStep(prepared, pricingContext, reach, number, at + 1)
  }
  return null
}

/**
 * Of lists that share a step the more specific line decides, then the order they stand in. `place` says where the only
 * list of a step names the item.
 */
export function bestOfStep(
  prepared: PreparedStore,
  step: readonly LadderEntry[],
  number: number,
  quantities: Quantities,
  found: ListPrice,
  place = UNSEARCHED,
): LadderEntry | null {
  if (step.length === 1) {
    const only = step[0] as LadderEntry
    return findInList(prepared, only.currencyView, only.compiled, number, quantities, found, place)
      ? only
      : null
  }
  let best: LadderEntry | null = null
  let units = Number.NaN
  let line = -1
  let specificity = Number.NEGATIVE_INFINITY
  for (const entry of step) {
    if (!findInList(prepared, entry.currencyView, entry.compiled, number, quantities, found)) continue
    if (found.specificity <= specificity) continue
    best = entry
    ;({ units, line, specificity } = found)
  }
  found.units = units
  found.line = line
  found.specificity = specificity
  return best
}

/** Of all lists that apply the cheapest; of equals the one that stands first. */
function findLowest(
  prepared: PreparedStore,
  pricingContext: PricingContext,
  number: number,
  quantities: Quantities,
): LadderEntry | null {
  let best: LadderEntry | null = null
  let units = Number.NaN
  let line = -1
  for (const step of pricingContext.ladder) {
    for (const entry of stepBySpecificity(prepared, step, number, quantities)) {
      if (!findInList(prepared, entry.currencyView, entry.compiled, number, quantities, scratch)) continue
      if (
        best &&
        !isCheaper(prepared, pricingContext, number, priceIn(scratch.units, entry), priceIn(units, best))
      )
        continue
      best = entry
      ;({ units, line } = scratch)
    }
  }
  scratch.units = units
  scratch.line = line
  return best
}

function priceIn(units: number, { compiled }: LadderEntry): BasedUnits {
  return { units, basis: compiled.basis }
}

/** The lists of one step in the order they would decide in. */
function stepBySpecificity(
  prepared: PreparedStore,
  step: readonly LadderEntry[],
  number: number,
  quantities: Quantities,
): readonly LadderEntry[] {
  if (step.length === 1) return step
  const found = emptyListPrice()
  return step
    .map((entry) => ({
      entry,
      specificity: findInList(prepared, entry.currencyView, entry.compiled, number, quantities, found)
        ? found.specificity
        : Number.NEGATIVE_INFINITY,
    }))
    .sort((left, right) => right.specificity - left.specificity)
    .map(({ entry }) => entry)
}

/** What the adjustments of the price shown make of it. */
export function adjustShown(
  prepared: PreparedStore,
  { currencyView, shown, digits }: PricingContext,
  number: number,
  { units, basis }: BasedUnits,
): number {
  return adjustedBy(prepared, currencyView, shown)(units, number, digits, basis)
}

/**
 * The least an item may be sold for, in smallest units: set in the currency, else the store's floor converted
 * without fee and rounded up. −infinity without one.
 */
export function floorUnits(
  prepared: PreparedStore,
  { currencyView, digits }: PricingContext,
  number: number,
): number {
  const { currency: home, priceDigits } = getSettings(prepared.store)
  if (setsAny(prepared, 'floor', currencyView.currency)) {
    const set = amountAt(ownAmounts(prepared, 'floor', currencyView) as Amounts, number)
    if (set === set) return set
  }
  if (currencyView.currency === home || !setsAny(prepared, 'floor', home)) return Number.NEGATIVE_INFINITY
  const atHome = amountAt(
    referenceAmounts(prepared, 'floor', currencyViewInto(prepared, currencyView, home)),
    number,
  )
  const conversion = findConversion(currencyView.rates, home, home, {
    code: currencyView.currency,
    fee: ZERO,
  })
  if (atHome !== atHome || !conversion) return Number.NEGATIVE_INFINITY
  const amount = toFraction(fromUnits(atHome, priceDigits))
  const converted = {
    numerator: amount.numerator * conversion.factor.numerator,
    denominator: amount.denominator * conversion.factor.denominator,
  }
  return toUnits(roundToDigits(converted, digits, 'up'), digits)
}
