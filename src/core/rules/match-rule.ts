import { type ItemFacts, matchWhat } from '../predicates/what'
import { type CompiledSchedule, matchWhen, type WhenMatch } from '../predicates/when'
import { matchWhere, type PlaceFacts, type WhereMatch } from '../predicates/where'
import { type BuyerFacts, matchWho, type WhoMatch } from '../predicates/who'
import type { Rule } from './rule'

/** Who asks, where and when. */
export interface Circumstances {
  readonly buyer: BuyerFacts
  readonly place: PlaceFacts
  /** Whether a schedule holds at the instant that is asked for. */
  readonly when: (schedule: CompiledSchedule) => WhenMatch
}

/** Who asks, where, and at one instant in epoch milliseconds. */
export function circumstancesAt({
  buyer,
  place,
  at,
}: Pick<Circumstances, 'buyer' | 'place'> & { readonly at: number }): Circumstances {
  return { buyer, place, when: (schedule) => matchWhen(schedule, at) }
}

/** What keeps a rule from holding at all, whatever it is asked about. */
export type NotHolding =
  | { readonly code: 'archived' }
  | { readonly code: 'off' }
  | { readonly code: 'not-for-buyer'; readonly match: Extract<WhoMatch, { readonly matches: false }> }
  | { readonly code: 'not-here'; readonly match: Extract<WhereMatch, { readonly matches: false }> }
  | {
      readonly code: 'not-now'
      readonly because: Extract<WhenMatch, { readonly matches: false }>['because']
      /** The rule's own dates, as local dates and times. */
      readonly from: string | null
      readonly to: string | null
    }

export type RuleVerdict =
  /** `specificity` is that of the term of its audience the buyer belongs to. */
  | { readonly holds: true; readonly specificity: number }
  | { readonly holds: false; readonly because: NotHolding }

/** What a rule that is not a whole one, as a price list, must say to be asked. */
type Asked = Pick<Rule, 'state' | 'status' | 'audience' | 'place' | 'schedule'>

/** Whether a rule holds for somebody, here and now; the first thing that keeps it from it. */
export function matchRule(
  rule: Asked,
  schedule: CompiledSchedule,
  { buyer, place, when }: Circumstances,
): RuleVerdict {
  if (rule.status === 'archived') return not({ code: 'archived' })
  if (rule.state === 'off') return not({ code: 'off' })
  const who = matchWho(rule.audience, buyer)
  if (!who.matches) return not({ code: 'not-for-buyer', match: who })
  return matchHereAndNow(rule, schedule, { place, when }) ?? { holds: true, specificity: who.specificity }
}

/** What keeps a rule from holding here and now, whoever asks; `null` when nothing does. */
export function matchHereAndNow(
  rule: Pick<Rule, 'place' | 'schedule'>,
  schedule: CompiledSchedule,
  { place, when }: Pick<Circumstances, 'place' | 'when'>,
): Extract<RuleVerdict, { readonly holds: false }> | null {
  const where = matchWhere(rule.place, place)
  if (!where.matches) return not({ code: 'not-here', match: where })
  const now = when(schedule)
  if (now.matches) return null
  const { from, to } = rule.schedule
  return not({ code: 'not-now', because: now.because, from, to })
}

/** Whether a rule that holds is for an item. */
export function isForItem({ scope }: Pick<Rule, 'scope'>, facts: ItemFacts): boolean {
  return matchWhat(scope, facts).matches
}

function not(because: NotHolding): Extract<RuleVerdict, { readonly holds: false }> {
  return { holds: false, because }
}
