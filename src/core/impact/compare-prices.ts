import { storeBasis } from '../engine/amounts/basis'
import { columnPrice } from '../engine/column/price-column'
import type { PriceColumn } from '../engine/context/prepared-store'
import type { BasedUnits } from '../engine/lists/based-units'
import type { Steps } from '../steps/steps'
import { breakQuantities } from './break-quantities'
import type { ItemPairs, Places } from './item-pairs'
import type { GuestsBeside, Standing } from './standing'

/** One price of an item for a class that is another one: at a quantity from which it is what it is. */
export interface MovedPrice {
  /** Id of the variant. */
  readonly variant: string
  /** In thousandths. */
  readonly quantity: number
  /** In smallest units of the class's currency on either side, in the basis of the store; NaN for no price. */
  readonly before: number
  readonly after: number
  readonly costBefore: number
  readonly costAfter: number
  /** Whether guests paid, and pay, less; never for guests. */
  readonly wasAbovePublic: boolean
  readonly isAbovePublic: boolean
}

const CELLS_A_STEP = 512

/** Both sides of a class whose prices are compared. */
interface Sides {
  readonly pairs: ItemPairs
  readonly before: Standing
  readonly after: Standing
  readonly guests: GuestsBeside
}

/** What is found: prices that are others, and prices that stay while their cost is another one. */
export interface FoundPrices {
  readonly prices: MovedPrice[]
  readonly costs: MovedPrice[]
}

/** Whole columns, where much may move. `seen` are places of items that are seen on both sides. */
export function* compareColumns(sides: Sides, seen: Places, found: FoundPrices): Steps<void> {
  const { pairs, before, after } = sides
  const otherCosts = placesOfOtherCosts(sides, seen)
  yield
  let last: readonly [PriceColumn, PriceColumn] | null = null
  for (const quantity of breakQuantities(before, after)) {
    const columns = [before.column(quantity), after.column(quantity)] as const
    yield
    const differing = placesDiffering(sides, seen, columns)
    for (const place of otherCosts.length === 0 ? differing : new Set([...differing, ...otherCosts])) {
      const [then, now] = [pairs.before[place] as number, pairs.after[place] as number]
      const isStep =
        last === null ||
        !isSame(last[0].prices[then] as number, columns[0].prices[then] as number) ||
        !isSame(last[1].prices[now] as number, columns[1].prices[now] as number)
      if (!isStep) continue
      const old = columnPrice(before.prepared, columns[0], then)
      const next = columnPrice(after.prepared, columns[1], now)
      add(sides, place, quantity, old, next, found)
    }
    yield
    last = columns
  }
}

/** Where an item costs the merchant something else. */
function placesOfOtherCosts({ pairs, before, after }: Sides, seen: Places): readonly number[] {
  if (before.hasCostsOf(after)) return []
  const places: number[] = []
  for (const place of seen) {
    const [then, now] = [pairs.before[place] as number, pairs.after[place] as number]
    if (!isSame(before.cost(then), after.cost(now))) places.push(place)
  }
  return places
}

/** Where prices differ, as their smallest units tell; every place where these cannot be compared. */
function placesDiffering(
  { pairs, before, after }: Sides,
  seen: Places,
  [then, now]: readonly [PriceColumn, PriceColumn],
): Places {
  const areComparable =
    then.bases === null &&
    now.bases === null &&
    storeBasis(before.prepared) === storeBasis(after.prepared) &&
    before.pricingContext.currency === after.pricingContext.currency
  if (!areComparable) return seen
  const [left, right] = [then.prices, now.prices]
  const differing: number[] = []
  for (let at = 0; at < seen.length; at += 1) {
    const place = seen[at] as number
    const old = left[pairs.before[place] as number] as number
    const next = right[pairs.after[place] as number] as number
    if (old !== next && (old === old || next === next)) differing.push(place)
  }
  return differing
}

/** Single prices, where few can move. */
export function* compareCells(sides: Sides, seen: Places, found: FoundPrices): Steps<void> {
  const { pairs, before, after } = sides
  if (seen.length === 0) return
  const quantities = breakQuantities(before, after)
  let at = 0
  for (const place of seen) {
    const [then, now] = [pairs.before[place] as number, pairs.after[place] as number]
    let [lastOld, lastNext] = [Number.NaN, Number.NaN]
    for (const [step, quantity] of quantities.entries()) {
      if (at++ % CELLS_A_STEP === 0) yield
      const [old, next] = [before.price(then, quantity), after.price(now, quantity)]
      const isStep = step === 0 || !isSame(lastOld, old.units) || !isSame(lastNext, next.units)
      lastOld = old.units
      lastNext = next.units
      if (isStep) add(sides, place, quantity, old, next, found)
    }
  }
}

function add(
  sides: Sides,
  place: number,
  quantity: number,
  old: BasedUnits,
  next: BasedUnits,
  found: FoundPrices,
): void {
  const { pairs, before, after, guests } = sides
  const [then, now] = [pairs.before[place] as number, pairs.after[place] as number]
  const isSameCurrency = before.pricingContext.currency === after.pricingContext.currency
  const isUnmoved = isSameCurrency && old.basis === next.basis && isSame(old.units, next.units)
  const [costBefore, costAfter] = [before.cost(then), after.cost(now)]
  if (isUnmoved && isSame(costBefore, costAfter)) return
  const [oldHome, nextHome] = [before.home(then, old), after.home(now, next)]
  const isPriceOf = !isUnmoved && !(isSameCurrency && isSame(oldHome, nextHome))
  if (!isPriceOf && (isSame(costBefore, costAfter) || Number.isNaN(nextHome))) return
  const variant = pairs.ids[place] as string
  ;(isPriceOf ? found.prices : found.costs).push({
    variant,
    quantity,
    before: oldHome,
    after: nextHome,
    costBefore,
    costAfter,
    wasAbovePublic: guests.isAbove('before', oldHome, variant, quantity),
    isAbovePublic: guests.isAbove('after', nextHome, variant, quantity),
  })
}

function isSame(left: number, right: number): boolean {
  return left === right || (left !== left && right !== right)
}
