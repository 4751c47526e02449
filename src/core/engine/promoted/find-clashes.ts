import type { Schedule } from '../../predicates/when'
import type { Where } from '../../predicates/where'
import { closedBy } from '../../promotions/closed-by'
import { phaseOf } from '../../promotions/phases'
import type { Promotion } from '../../promotions/promotion'
import { compareRules } from '../../rules/rule'
import type { Steps } from '../../steps/steps'
import type { PreparedStore } from '../context/prepared-store'
import { keptScopeMatcher } from '../items/scope-matcher'

/** Two promotions that can take the same units, the one that is considered first before the other. */
export interface Clash {
  readonly first: Promotion
  readonly then: Promotion
  /** How many variants are in both, and some of them by their numbers. */
  readonly count: number
  readonly some: readonly number[]
  /** Both take them one after the other, the first keeps the other off them, or whichever saves more does. */
  readonly outcome: 'both' | 'first' | 'saves-more'
}

const MOST_NAMED = 3
/** How many items make a step. */
const ITEMS_A_STEP = 1_024

/**
 * Promotions on goods that are on and not over, for the same items, that may hold at one time and place: by who is considered
 * first. Buyers are not looked at, since one may be in any number of groups.
 *
 * Units   `now` in epoch milliseconds.
 */
export function* findClashes(prepared: PreparedStore, now: number): Steps<readonly Clash[]> {
  const { index, terms } = prepared
  const promotions = terms.promotions
    .filter(({ schedule }) => schedule.to > now)
    .map(({ rule }) => rule)
    .filter((rule) => rule.state === 'on' && rule.status === 'active' && phaseOf(rule) >= 0)
    .sort((one, other) => phaseOf(one) - phaseOf(other) || compareRules(one, other))
  const holds = promotions.map(({ scope }) => keptScopeMatcher(prepared, scope))
  const together = new Map<number, { count: number; readonly some: number[] }>()
  for (let number = 0; number < index.variantCount; number += 1) {
    const held = [...promotions.keys()].filter((at) => holds[at]?.(number))
    held.forEach((first, place) => {
      for (const then of held.slice(place + 1)) {
        const key = first * promotions.length + then
        const known = together.get(key) ?? { count: 0, some: [] }
        together.set(key, known)
        known.count += 1
        if (known.some.length < MOST_NAMED) known.some.push(number)
      }
    })
    if (number % ITEMS_A_STEP === 0) yield
  }
  return [...together]
    .sort(([one], [other]) => one - other)
    .flatMap(([key, { count, some }]): readonly Clash[] => {
      const first = promotions[Math.floor(key / promotions.length)] as Promotion
      const then = promotions[key % promotions.length] as Promotion
      if (!mayMeet(first, then)) return []
      return [{ first, then, count, some, outcome: outcomeOf(first, then) }]
    })
}

function outcomeOf(first: Promotion, then: Promotion): Clash['outcome'] {
  if (closedBy([first], then) === null) return 'both'
  return phaseOf(first) === phaseOf(then) && first.rank === then.rank ? 'saves-more' : 'first'
}

/** Whether two promotions can hold at one moment in one place, as far as their own words tell. */
function mayMeet(one: Promotion, other: Promotion): boolean {
  return timesMeet(one.schedule, other.schedule) && placesMeet(one.place, other.place)
}

function timesMeet(one: Schedule, other: Schedule): boolean {
  const endsBefore = (first: Schedule, second: Schedule) =>
    first.to !== null && second.from !== null && first.to <= second.from
  if (endsBefore(one, other) || endsBefore(other, one)) return false
  const isOverridden = [one, other].some(({ overrides }) => Object.keys(overrides).length > 0)
  return share(one.months, other.months) && (isOverridden || share(one.weekdays, other.weekdays))
}

/** Whether two choices have something in common; empty is any. */
function share(one: readonly number[], other: readonly number[]): boolean {
  return one.length === 0 || other.length === 0 || one.some((each) => other.includes(each))
}

/** Two channels never meet; anything else may. */
function placesMeet({ include: one }: Where, { include: other }: Where): boolean {
  const channels = (terms: Where['include']) =>
    terms.flatMap((term) => (term.kind === 'channel' ? [term.channel] : []))
  const [mine, theirs] = [channels(one), channels(other)]
  const onlyChannels = [one, other].every(
    (terms) => terms.length > 0 && terms.every(({ kind }) => kind === 'channel'),
  )
  return !onlyChannels || mine.some((each) => theirs.includes(each))
}
