import { type Decimal, decimal } from '../decimal/decimal'
import { breakEvenPercent, marginPercent } from '../price/margin'
import type { ClassImpact, MovedPrice } from './class-impact'

/** What moved prices come to, of one class or of several together. */
export interface ImpactSummary {
  readonly moved: number
  readonly rise: number
  readonly fall: number
  readonly appear: number
  readonly vanish: number
  /** Prices that do not bring their cost back after, and those of them that did before. */
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
  /** What the basket earns more, or less, in smallest units of the currency. */
  readonly profit: number
}

/** How much each price counts: once, or by what was sold of it. */
export type Weights = (variant: string) => number

export const ONCE: Weights = () => 1

/** How far a price moves, in percent; `null` where there is none on one side. */
export function movePercent({ before, after }: MovedPrice): number | null {
  return before > 0 && after === after ? ((after - before) / before) * 100 : null
}

/** A price that does not even bring its cost back. */
export function isBelow(price: number, cost: number): boolean {
  return price < cost
}

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
  const percents: number[] = []
  // In smallest units, whole numbers: their sums are exact. One basket of several currencies would mean nothing.
  const basket = { before: 0, after: 0, costBefore: 0, costAfter: 0 }
  let moved = 0
  for (const { prices, currency } of impacts) {
    const isComparable = currency.before === currency.after
    for (const price of prices) {
      moved += 1
      count(price, counts)
      const percent = isComparable ? movePercent(price) : null
      if (percent !== null) percents.push(percent)
      if (isComparable && currency.after === impacts[0]?.currency.after)
        put(price, weightOf(price.variant), basket)
    }
  }
  percents.sort((left, right) => left - right)
  const [marginBefore, marginAfter] = [
    basket.before - basket.costBefore,
    basket.after - basket.costAfter,
  ].map(whole)
  return {
    moved,
    ...counts,
    mean:
      percents.length === 0 ? null : tenths(percents.reduce((sum, each) => sum + each, 0) / percents.length),
    median: percents.length === 0 ? null : tenths(middle(percents)),
    marginBefore: marginPercent(whole(basket.before), whole(basket.costBefore)),
    marginAfter: marginPercent(whole(basket.after), whole(basket.costAfter)),
    breakEven: breakEvenPercent(marginBefore as Decimal, marginAfter as Decimal),
    profit: basket.after - basket.costAfter - (basket.before - basket.costBefore),
  }
}

function count(
  price: MovedPrice,
  counts: Record<
    'rise' | 'fall' | 'appear' | 'vanish' | 'belowCost' | 'newlyBelowCost' | 'newlyAbovePublic',
    number
  >,
): void {
  const { before, after, costBefore, costAfter } = price
  if (before !== before) counts.appear += 1
  else if (after !== after) counts.vanish += 1
  else if (after > before) counts.rise += 1
  else counts.fall += 1
  if (isBelow(after, costAfter)) {
    counts.belowCost += 1
    if (!isBelow(before, costBefore)) counts.newlyBelowCost += 1
  }
  if (price.isAbovePublic && !price.wasAbovePublic) counts.newlyAbovePublic += 1
}

function put(
  { before, after, costBefore, costAfter }: MovedPrice,
  weight: number,
  basket: Record<'before' | 'after' | 'costBefore' | 'costAfter', number>,
): void {
  // Without a price or a cost on either side there is no margin to compare.
  if (Number.isNaN(before + after + costBefore + costAfter)) return
  basket.before += before * weight
  basket.after += after * weight
  basket.costBefore += costBefore * weight
  basket.costAfter += costAfter * weight
}

function middle(sorted: readonly number[]): number {
  const at = Math.floor(sorted.length / 2)
  const upper = sorted[at] as number
  return sorted.length % 2 === 1 ? upper : ((sorted[at - 1] as number) + upper) / 2
}

function whole(value: number): Decimal {
  return decimal(Math.round(value))
}

function tenths(percent: number): Decimal {
  return decimal((Math.round(percent * 10) / 10).toFixed(1))
}
