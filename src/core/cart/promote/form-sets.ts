import {
  addFractions,
  compareFractions,
  type Fraction,
  leastFraction,
  percentOfFraction,
  subtractFractions,
  sumFractions,
  ZERO_FRACTION,
} from '../../decimal/fraction'
import type { PromotionValue, SetSaving } from '../../promotions/promotion'
import { type Segment, shareOf } from './basket'
import { fillParts, type Filling } from './fill-parts'
import { QUANTITY_UNITS as UNIT } from '../../engine/lists/compiled-line'
import type { Goods } from './goods'
import { type FormedSet, openOf, type PlainSet, segmentAt, type SetUnits, type Turn } from './planned'

type SetValue = Extract<PromotionValue, { readonly kind: 'set' }>

/**
 * As many whole sets as units and uses allow and as save something, filled from the dearest units down.
 *
 * Holds   no other choice of units and number of sets saves more; where parts hold some of the same and the cheapest are
 *         free, each set is formed of the dearest units left.
 */
export function formSets(turn: Turn, { parts, saving }: SetValue): readonly FormedSet[] {
  const { goods, usesLeft } = turn
  const sources = dearestFirst(turn, parts)
  const fill = (sets: number) =>
    fillParts(
      sources,
      parts.map(({ count }) => count * sets),
    )
  const least = parts.map(({ count }, part) => Math.floor(unitsFor(sources, part) / count))
  const most = lastWhere(Math.min(usesLeft, ...least), (sets) => fill(sets) !== null)
  if (most === 0) return []
  const price = saving.kind === 'price' ? goods.money(saving.price) : null
  if (saving.kind === 'price' && price === null) return []
  // One more set is worth less than the one before it; it has to be worth its price.
  const worth = (sets: number) => worthOf(sources, sets === 0 ? null : fill(sets))
  const sets =
    price === null
      ? most
      : lastWhere(
          most,
          (count) => compareFractions(subtractFractions(worth(count), worth(count - 1)), price) > 0,
        )
  const filling = sets === 0 ? null : fill(sets)
  if (!filling) return []
  return splitIntoSets(parts, sources, filling).map((set) => ({
    ...set,
    saving: savingOf(set, saving, goods),
  }))
}

interface Source {
  /** Where it stands in the basket. */
  readonly at: number
  readonly segment: Segment
  readonly units: number
  readonly fits: readonly boolean[]
}

function dearestFirst(turn: Turn, parts: SetValue['parts']): readonly Source[] {
  const { basket, goods } = turn
  const held = parts.map(({ scope }) => (scope ? goods.holds(scope) : null))
  return openOf(turn).flatMap((at): readonly Source[] => {
    const segment = segmentAt(basket, at)
    const units = Math.floor(segment.quantity / UNIT)
    return units > 0 ? [{ at, segment, units, fits: held.map((each) => each?.[segment.line] ?? true) }] : []
  })
}

function unitsFor(sources: readonly Source[], part: number): number {
  return sources.reduce((sum, { units, fits }) => sum + (fits[part] ? units : 0), 0)
}

/** The last of 1 … `most` for which something holds that holds for every smaller one; 0 where none. */
function lastWhere(most: number, holds: (count: number) => boolean): number {
  let low = 0
  let high = most
  while (low < high) {
    const middle = (low + high + 1) >> 1
    if (holds(middle)) low = middle
    else high = middle - 1
  }
  return low
}

function worthOf(sources: readonly Source[], filling: Filling | null): Fraction {
  if (!filling) return ZERO_FRACTION
  return sumFractions(sources.map(({ segment }, at) => shareOf(segment, UNIT * sumOf(filling[at] ?? []))))
}

function sumOf(numbers: readonly number[]): number {
  return numbers.reduce((sum, each) => sum + each, 0)
}

/** Each set takes from every part the dearest units left in it; sets that are alike are one. */
function splitIntoSets(
  parts: SetValue['parts'],
  sources: readonly Source[],
  filling: Filling,
): readonly PlainSet[] {
  const runs = parts.map((_, part) =>
    sources.flatMap(({ at, segment }, source) => {
      const count = filling[source]?.[part] ?? 0
      return count > 0 ? [{ segment: at, each: shareOf(segment, UNIT), count }] : []
    }),
  )
  const sets: PlainSet[] = []
  while (runs.every((run) => run.length > 0)) {
    const alike = Math.min(
      ...runs.map(([head], part) => Math.floor((head?.count ?? 0) / countOf(parts, part))),
    )
    const times = Math.max(1, alike)
    const units = runs.flatMap((run, part) => takeFrom(run, part, countOf(parts, part), times))
    sets.push({ times, units, amount: sumFractions(units.map(({ each, count }) => manyOf(each, count))) })
  }
  return sets
}

function countOf(parts: SetValue['parts'], part: number): number {
  return parts[part]?.count ?? 1
}

/** Takes the units of so many alike sets off the front of a run; gives those of one. */
function takeFrom(
  run: { readonly segment: number; readonly each: Fraction; count: number }[],
  part: number,
  wanted: number,
  times: number,
): readonly SetUnits[] {
  const units: SetUnits[] = []
  for (let missing = wanted; missing > 0;) {
    const head = run[0] as (typeof run)[number]
    const count = Math.min(missing, head.count)
    units.push({ segment: head.segment, part, count, each: head.each })
    missing -= count
    head.count -= count * times
    if (head.count <= 0) run.shift()
  }
  return units
}

function manyOf(each: Fraction, count: number): Fraction {
  return { numerator: each.numerator * BigInt(count), denominator: each.denominator }
}

function savingOf({ units, amount }: PlainSet, saving: SetSaving, goods: Goods): Fraction {
  switch (saving.kind) {
    case 'percent':
      return percentOfFraction(amount, saving.percent)
    case 'amount':
      return leastFraction(goods.money(saving.amount) ?? ZERO_FRACTION, amount)
    case 'price':
      return subtractFractions(amount, goods.money(saving.price) ?? amount)
    case 'cheapest-free':
      return cheapest(units, saving.count)
  }
}

function cheapest(units: readonly SetUnits[], wanted: number): Fraction {
  let missing = wanted
  let sum = ZERO_FRACTION
  for (const { each, count } of [...units].sort((one, other) => compareFractions(one.each, other.each))) {
    const free = Math.min(missing, count)
    sum = addFractions(sum, manyOf(each, free))
    missing -= free
  }
  return sum
}
