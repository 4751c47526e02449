import { type Decimal, sum } from '../decimal/decimal'
import { differencePercent } from '../decimal/difference-percent'
import { isBelowCost, marginPercent, medianDifferencePercent, type PriceAgainst } from '../price/margin'
import { eachInSteps, type Steps } from '../steps/steps'
import { medianDeviation, OUTLYING } from './median-deviation'
import type { RepriceRow } from './reprice'

/** What a rule comes to over all its rows. Percents have one digit. */
export interface RepriceFigures {
  /** Rows whose amount is another one after. */
  readonly changing: readonly RepriceRow[]
  /** Rows the rule leaves as they are, and rows it cannot be applied to. */
  readonly same: readonly RepriceRow[]
  readonly problems: readonly RepriceRow[]
  /** Rows that move by more than three median absolute deviations away from the median. */
  readonly outliers: ReadonlySet<RepriceRow>
  /** How far rows move, in percent and rising, for drawing; rows that do not move stay out. */
  readonly moves: readonly number[]
  readonly median: Decimal | null
  /** Half of the moves lie between them. */
  readonly quartiles: readonly [lower: Decimal, upper: Decimal] | null
  /** Changing rows of which the new amount does not bring the cost back. */
  readonly belowCost: number
  /** Of one of each that changes and has a cost; `null` where there is none. */
  /** By how many percent a row moves; not exact, for putting rows in order. */
  readonly percentOf: ReadonlyMap<RepriceRow, number>
  readonly margins: { readonly now: Decimal | null; readonly next: Decimal | null } | null
}

interface Moved {
  readonly row: RepriceRow
  readonly against: PriceAgainst
  /** In percent. Only the order and what stands out come of it; what is shown is computed exactly. */
  readonly percent: number
}

export function* repriceFigures(rows: readonly RepriceRow[]): Steps<RepriceFigures> {
  const changing: RepriceRow[] = []
  const same: RepriceRow[] = []
  const problems: RepriceRow[] = []
  const moved: Moved[] = []
  const percentOf = new Map<RepriceRow, number>()
  let belowCost = 0
  yield* eachInSteps(rows, (row) => {
    const { next, now, cost, problem } = row
    if (problem !== null) problems.push(row)
    else if (next === now) same.push(row)
    if (next === null || next === now) return
    changing.push(row)
    if (cost !== null && isBelowCost(next, cost)) belowCost += 1
    for (const each of movedOf(row)) {
      moved.push(each)
      percentOf.set(row, each.percent)
    }
  })
  yield
  moved.sort((left, right) => left.percent - right.percent)
  const moves = moved.map(({ percent }) => percent)
  const { median, deviation } = medianDeviation(moves)
  return {
    changing,
    same,
    problems,
    outliers: new Set(
      moved.filter(({ percent }) => isOutlying(percent, median, deviation)).map(({ row }) => row),
    ),
    moves,
    median: medianDifferencePercent(moved.map(({ against }) => against)),
    quartiles: quartilesOf(moved),
    belowCost,
    margins: yield* marginsOf(changing),
    percentOf,
  }
}

/** So many points of percent are no more than what rounding makes of one rule (common practice, no source). */
const LEAST_OUTLYING = 1

/** Whether a move, in percent, stands out from the others: never where more than half of them are the same. */
export function isOutlying(percent: number, median: number, deviation: number): boolean {
  const distance = Math.abs(percent - median)
  return deviation > 0 && distance > OUTLYING * deviation && distance > LEAST_OUTLYING
}

function movedOf(row: RepriceRow): readonly Moved[] {
  const { now, next } = row
  if (now === null || next === null || Number(now) <= 0) return []
  return [{ row, against: [next, now], percent: ((Number(next) - Number(now)) / Number(now)) * 100 }]
}

function quartilesOf(moved: readonly Moved[]): RepriceFigures['quartiles'] {
  const at = (share: number) => {
    const against = moved[Math.floor(share * (moved.length - 1))]?.against
    return against ? differencePercent(...against) : null
  }
  const [lower, upper] = [at(0.25), at(0.75)]
  return lower === null || upper === null ? null : [lower, upper]
}

function* marginsOf(changing: readonly RepriceRow[]): Steps<RepriceFigures['margins']> {
  const known = changing.filter(({ now, cost }) => now !== null && cost !== null)
  if (known.length === 0) return null
  const cost = sum(known.map((row) => row.cost as Decimal))
  yield
  const now = sum(known.map((row) => row.now as Decimal))
  yield
  const next = sum(known.map((row) => row.next as Decimal))
  return { now: marginPercent(now, cost), next: marginPercent(next, cost) }
}
