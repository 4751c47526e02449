import { compare, type Decimal } from '../decimal/decimal'

/** A price and since when (epoch milliseconds) it was what the public paid; `null` where there was none. */
export interface PastPrice {
  readonly since: number
  readonly price: Decimal | null
}

const DAY = 86_400_000
/** How far back the lowest price is looked for, and how long a reduction is one: after that it is the price. */
const COUNTED = 30 * DAY
/**
 * How far back a run of reductions is followed. The directive sets no end; ours is there so that the answer never depends on how
 * much of the past somebody happens to have at hand.
 */
const LONGEST_RUN = 90 * DAY
/** How much of the past (milliseconds before the instant asked about) `priorPrice` looks at: older steps change nothing. */
export const PAST_LOOKED_AT = LONGEST_RUN + COUNTED

/** What a reduction may be announced beside. */
export interface PriorPrice {
  readonly price: Decimal
  /** When it was that low, for the first time in those days. */
  readonly since: number
  /** The instant the days are counted back from: when the reduction began, or the first of several that followed one another. */
  readonly countedFrom: number
}

/**
 * The lowest price of the 30 days before a reduction began; of one that grows step by step, before its first step. Goods
 * that have been sold for less than 30 days are looked at as long as they have been sold.
 *
 * `steps` are in order of time. `at` is when the reduction begins (or has begun).
 *
 * Errors  `null` where nothing was sold in those days, so that there is nothing to announce a reduction from.
 * Source  Directive 98/6/EC, Article 6a(1), (2), (4) and (5), inserted by Directive (EU) 2019/2161, Article 2(1): paragraphs
 *         4 and 5 are options of the member states.
 */
export function priorPrice(steps: readonly PastPrice[], at: number): PriorPrice | null {
  const began = reductionBegan(steps, at)
  const start = began - COUNTED
  let lowest: PriorPrice | null = null
  for (const [place, { since, price }] of steps.entries()) {
    const until = steps[place + 1]?.since ?? Number.POSITIVE_INFINITY
    if (price === null || since >= began || until <= start) continue
    if (lowest === null || compare(price, lowest.price) < 0)
      lowest = { price, since: Math.max(since, start), countedFrom: began }
  }
  return lowest
}

/**
 * The lowest price before what is asked now is a reduction of; `null` where it is none. Steps, instants, and what is wrong as of
 * `priorPrice`.
 */
export function reducedFrom(steps: readonly PastPrice[], at: number): Decimal | null {
  const now = steps.findLast(({ since }) => since <= at)?.price ?? null
  const prior = priorPrice(steps, at)
  return now !== null && prior && compare(now, prior.price) < 0 ? prior.price : null
}

/** When the run of reductions began that an instant is in: each step lower than the one before, without a rise between. */
function reductionBegan(steps: readonly PastPrice[], at: number): number {
  const past = steps.filter(({ since }) => since <= at)
  let began = at
  for (let place = past.length - 1; place > 0; place -= 1) {
    const [now, before] = [past[place] as PastPrice, past[place - 1] as PastPrice]
    if (now.price === null || before.price === null || compare(now.price, before.price) >= 0) break
    if (began - now.since > COUNTED || at - now.since >= LONGEST_RUN) break
    began = now.since
  }
  return began
}
