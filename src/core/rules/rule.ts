import type { Status } from '../issue/issue'
import type { What } from '../predicates/what'
import { type CompiledSchedule, compileSchedule, type Schedule } from '../predicates/when'
import type { Where } from '../predicates/where'
import type { Who } from '../predicates/who'

/** What every rule says before it says what it does: whom, what, where and when it is for. */
export interface Rule {
  readonly id: string
  readonly code: string
  readonly name: string
  readonly state: 'on' | 'off'
  readonly status: Status
  /** Among rules that say equally much, 1 comes before 2. */
  readonly rank: number
  readonly audience: Who
  readonly scope: What
  readonly place: Where
  readonly schedule: Schedule
}

/** A rule with its schedule made ready for looking up. */
export interface CompiledRule<Kind extends Rule> {
  readonly rule: Kind
  readonly schedule: CompiledSchedule
}

export function compileRules<Kind extends Rule>(
  rules: ReadonlyMap<string, Kind>,
  timeZone: string,
): readonly CompiledRule<Kind>[] {
  return [...rules.values()].map((rule) => ({ rule, schedule: compileSchedule(rule.schedule, timeZone) }))
}

/** Several apply in the order of their ranks, and then of their codes. */
export function compareRules(left: Rule, right: Rule): number {
  return left.rank - right.rank || (left.code < right.code ? -1 : 1)
}
