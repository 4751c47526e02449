import { type Decimal, fromDigits } from '../decimal/decimal'
import { roundToDigits } from '../decimal/rounding'
import { differencePercent } from '../decimal/difference-percent'
import { breakEvenPercent, marginPercent, medianDifferencePercent } from '../price/margin'
import type { ClassImpact } from './class-impact'
import type { MovedPrice } from './compare-prices'

/** What moved prices come to, of one class or of several together. */
export interface ImpactSummary {
  readonly moved: number
  readonly rise: number
  readonly fall: number
  readonly appear: number
  readonly vanish: number
  /** Prices that do not bring their cost back after, and those of them that did before; moved or not. */
  readonly belowCost: number
  readonly newlyBelowCost: number
  /** Prices above what guests pay after, and were not before. */
  readonly newlyAbovePublic: number
  /** Of prices there are on both sides, in percent with one digit. */
  readonly mean: Decimal | null
  readonly median: Decimal | null
  /** Of a basket of them, in percent of its price; `null` without costs. */
  readonly marginBefore: Decimal | null
  readonly marginAfter: Decimal | null
  /** By how much sales may change for the same profit, in percent. */
  readonly breakEven: Decimal | null
}

/** How much each price counts, in thousandths: once, or by what was sold of it. */
export type Weights = (variant: string) => number

export const ONCE: Weights = () => 1_000

/**
 * How far a price moves, in percent with one digit (half up).
 *
 * Errors  `null` where there is none on one side.
 */
export function movePercent({ before, after }: MovedPrice): Decimal | null {
  return Number.isNaN(before + after) ? null : differencePercent(exactly(after), exactly(before))
}

/** What is left of a price after its cost, both in smallest units; `null` without one of them. */
export function marginOf(price: number, cost: number): Decimal | null {
  return Number.isNaN(price + cost) ? null : marginPercent(exactly(price), exactly(cost))
}

/** A price that does not even bring its cost back; `false` where one of them is NaN. */
export function isBelow(price: number, cost: number): boolean {
  return price < cost
}

/** Whether a price falls below its cost that did not before. */
export function isNewlyBelow({ before, after, costBefore, costAfter }: MovedPrice): boolean {
  return isBelow(after, costAfter) && !isBelow(before, costBefore)
}

/** Whether a price rises above what guests pay that did not stand there before. */
export function isNewlyAbovePublic({ isAbovePublic, wasAbovePublic }: MovedPrice): boolean {
  return isAbovePublic && !wasAbovePublic
}

/**
 * The order in which moved prices are shown: newly below cost, newly above what guests pay, then by the margin they lose
 * (in points of percent), then by how far they move.
 */
export function worstMovesFirst(prices: readonly MovedPrice[]): readonly MovedPrice[] {
  const keyed = prices.map((price) => {
    const [before, after] = [
      marginOf(price.before, price.costBefore),
      marginOf(price.after, price.costAfter),
    ].map((margin) => Number(margin ?? 0)) as [number, number]
    return {
      price,
      group: isNewlyBelow(price) ? 0 : isNewlyAbovePublic(price) ? 1 : 2,
      lost: before - after,
      move: Math.abs(Number(movePercent(price) ?? 0)),
    }
  })
  return keyed
    .sort((left, right) => left.group - right.group || right.lost - left.lost || right.move - left.move)
    .map(({ price }) => price)
}

/**
 * What moved prices of some classes come to. Baskets hold the prices in the currency of the first class.
 *
 * `weightOf` says in thousandths how much a price counts in the basket; counts and percents take each price once.
 */
export function summarize(impacts: readonly ClassImpact[], weightOf: Weights = ONCE): ImpactSummary {
  const counts = {
    rise: 0,
    fall: 0,
    appear: 0,
    vanish: 0,
    belowCost: 0,
    newlyBelowCost: 0,
    newlyAbovePublic: 0,
  }
  const moves: Move[] = []
  // One basket of several currencies would mean nothing.
  const basket = { before: 0n, after: 0n, costBefore: 0n, costAfter: 0n }
  let moved = 0
  for (const { prices, costs, currency } of impacts) {
    const isComparable = currency.before === currency.after
    for (const price of costs) {
      countBelow(price, counts)
      if (isComparable && currency.after === impacts[0]?.currency.after)
        put(price, weightOf(price.variant), basket)
    }
    for (const price of prices) {
      moved += 1
      count(price, counts)
      if (isComparable && price.before > 0 && price.after === price.after)
        moves.push({ before: price.before, after: price.after })
      if (isComparable && currency.after === impacts[0]?.currency.after)
        put(price, weightOf(price.variant), basket)
    }
  }
  moves.sort((left, right) => left.after / left.before - right.after / right.before)
  const amount = (units: bigint) => fromDigits({ coefficient: units, scale: FINE_DIGITS + 3 })
  return {
    moved,
    ...counts,
    mean: meanOf(moves),
    median: medianDifferencePercent(moves.map(({ before, after }) => [exactly(after), exactly(before)])),
    marginBefore: marginPercent(amount(basket.before), amount(basket.costBefore)),
    marginAfter: marginPercent(amount(basket.after), amount(basket.costAfter)),
    breakEven: breakEvenPercent(
      amount(basket.before - basket.costBefore),
      amount(basket.after - basket.costAfter),
    ),
  }
}

function count(
  price: MovedPrice,
  counts: Record<
    'rise' | 'fall' | 'appear' | 'vanish' | 'belowCost' | 'newlyBelowCost' | 'newlyAbovePublic',
    number
  >,
): void {
  const { before, after } = price
  if (before !== before) counts.appear += 1
  else if (after !== after) counts.vanish += 1
  else if (after > before) counts.rise += 1
  else counts.fall += 1
  countBelow(price, counts)
  if (isNewlyAbovePublic(price)) counts.newlyAbovePublic += 1
}

function countBelow(price: MovedPrice, counts: Record<'belowCost' | 'newlyBelowCost', number>): void {
  if (!isBelow(price.after, price.costAfter)) return
  counts.belowCost += 1
  if (isNewlyBelow(price)) counts.newlyBelowCost += 1
}

function put(
  { before, after, costBefore, costAfter }: MovedPrice,
  weight: number,
  basket: Record<'before' | 'after' | 'costBefore' | 'costAfter', bigint>,
): void {
  // Without a price or a cost on either side there is no margin to compare.
  if (Number.isNaN(before + after + costBefore + costAfter)) return
  const share = BigInt(weight)
  basket.before += fine(before) * share
  basket.after += fine(after) * share
  basket.costBefore += fine(costBefore) * share
  basket.costAfter += fine(costAfter) * share
}

/**
 * Amounts in smallest units are whole, but where a price was brought into the basis of the store: then they have up to eight
 * digits more (`shownInBasis`), and are held to those.
 */
const FINE_DIGITS = 8
const FINE = 10 ** FINE_DIGITS

function fine(units: number): bigint {
  const whole = Math.trunc(units)
  return BigInt(whole) * BigInt(FINE) + BigInt(Math.round((units - whole) * FINE))
}

function exactly(units: number): Decimal {
  return fromDigits({ coefficient: fine(units), scale: FINE_DIGITS })
}

type Move = Pick<MovedPrice, 'before' | 'after'>

/** Each move is held to a millionth of a percent: the exact sum of many has a denominator of as many digits. */
function meanOf(moves: readonly Move[]): Decimal | null {
  if (moves.length === 0) return null
  const sum = moves.reduce((sofar, { before, after }) => {
    const from = fine(before)
    return sofar + ((fine(after) - from) * 100_000_000n) / from
  }, 0n)
  return roundToDigits({ numerator: sum, denominator: 1_000_000n * BigInt(moves.length) }, 1, 'half-up')
}
