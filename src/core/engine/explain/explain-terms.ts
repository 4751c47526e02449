import type { AccessRule } from '../../access/access'
import type { LimitRule } from '../../limits/limit'
import { matchWhat } from '../../predicates/what'
import { compileSchedule, matchWhen } from '../../predicates/when'
import { matchWhere } from '../../predicates/where'
import { matchWho } from '../../predicates/who'
import { getSettings } from '../../store/store'
import { factsOf } from '../items/catalogue-index'
import { winningRule } from '../rules/find-rights'
import type { PreparedStore } from '../context/prepared-store'
import type { PricingContext } from '../context/pricing-context'

/** How a rule stood to one question. */
export type RuleStanding =
  | 'decides'
  /** It is for this, but another says more. */
  | 'weaker'
  | 'off'
  | 'not-for-buyer'
  | 'not-here'
  | 'not-now'
  | 'outside-scope'

export interface RuleVerdict {
  readonly rule: string
  readonly standing: RuleStanding
}

/** Every access rule of the store and how it stood to an item, the one that decides first. */
export function explainRights(
  prepared: PreparedStore,
  pricingContext: PricingContext,
  number: number,
): readonly RuleVerdict[] {
  const { store, index } = prepared
  const facts = factsOf(store, index, number)
  const filedUnder = store.product.get(facts.product)?.categories ?? []
  const won = winningRule(store.category, pricingContext.terms.rules, facts, filedUnder)
  return inOrder(
    [...store['access-rule'].values()].map((rule) => ({
      rule: rule.id,
      standing:
        standingOf(prepared, pricingContext, rule, number) ??
        (rule.id === won?.rule.id ? 'decides' : 'weaker'),
    })),
  )
}

/** Every limit rule of the store and how it stood to an item. `setBy` are the ids of those that set a field or count more. */
export function explainLimits(
  prepared: PreparedStore,
  pricingContext: PricingContext,
  number: number,
  setBy: ReadonlySet<string>,
): readonly RuleVerdict[] {
  return inOrder(
    [...prepared.store.limit.values()].map((rule) => ({
      rule: rule.id,
      standing:
        standingOf(prepared, pricingContext, rule, number) ?? (setBy.has(rule.id) ? 'decides' : 'weaker'),
    })),
  )
}

/** What keeps a rule from being for this at all; `null` when it is. */
function standingOf(
  { store, index }: PreparedStore,
  { buyer, place, at }: PricingContext,
  rule: AccessRule | LimitRule,
  number: number,
): RuleStanding | null {
  if (rule.state === 'off' || rule.status === 'archived') return 'off'
  if (!matchWho(rule.audience, buyer).matches) return 'not-for-buyer'
  if (!matchWhere(rule.place, place).matches) return 'not-here'
  const schedule = compileSchedule(rule.schedule, getSettings(store).timeZone)
  if (!matchWhen(schedule, at).matches) return 'not-now'
  return matchWhat(rule.scope, factsOf(store, index, number)).matches ? null : 'outside-scope'
}

function inOrder(verdicts: readonly RuleVerdict[]): readonly RuleVerdict[] {
  const weight = { decides: 0, weaker: 1, 'outside-scope': 2 } as Partial<Record<RuleStanding, number>>
  return [...verdicts].sort((left, right) => (weight[left.standing] ?? 3) - (weight[right.standing] ?? 3))
}
