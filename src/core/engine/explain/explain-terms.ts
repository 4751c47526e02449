import type { ItemFacts } from '../../predicates/what'
import { circumstancesAt, isForItem, matchRule, type NotHolding } from '../../rules/match-rule'
import type { CompiledRule, Rule } from '../../rules/rule'
import { factsOf } from '../items/catalogue-index'
import { winningRule } from '../rules/find-rights'
import type { PreparedStore } from '../context/prepared-store'
import type { PricingContext } from '../context/pricing-context'

/** How a rule stood to one question. */
export type RuleStanding =
  | 'decides'
  /** It is for this, but another says more. */
  | 'weaker'
  | NotHolding['code']
  | 'outside-scope'

export interface RuleStood {
  readonly rule: string
  readonly standing: RuleStanding
}

/** Every access rule of the store and how it stood to an item, the one that decides first. */
export function explainRights(
  prepared: PreparedStore,
  pricingContext: PricingContext,
  number: number,
): readonly RuleStood[] {
  const { store, index } = prepared
  const facts = factsOf(store, index, number)
  const filedUnder = store.product.get(facts.product)?.categories ?? []
  const won = winningRule(store.category, pricingContext.terms.rules, facts, filedUnder)
  return inOrder(
    prepared.terms.rules.map((compiled) => ({
      rule: compiled.rule.id,
      standing:
        standingOf(pricingContext, compiled, facts) ??
        (compiled.rule.id === won?.rule.id ? 'decides' : 'weaker'),
    })),
  )
}

/** Every limit rule of the store and how it stood to an item. `setBy` are the ids of those that set a field or count more. */
export function explainLimits(
  prepared: PreparedStore,
  pricingContext: PricingContext,
  number: number,
  setBy: ReadonlySet<string>,
): readonly RuleStood[] {
  const facts = factsOf(prepared.store, prepared.index, number)
  return inOrder(
    prepared.terms.limits.map((compiled) => ({
      rule: compiled.rule.id,
      standing:
        standingOf(pricingContext, compiled, facts) ?? (setBy.has(compiled.rule.id) ? 'decides' : 'weaker'),
    })),
  )
}

/** What keeps a rule from being for this at all; `null` when it is. */
function standingOf(
  pricingContext: PricingContext,
  { rule, schedule }: CompiledRule<Rule>,
  facts: ItemFacts,
): RuleStanding | null {
  const verdict = matchRule(rule, schedule, circumstancesAt(pricingContext))
  if (!verdict.holds) return verdict.because.code
  return isForItem(rule, facts) ? null : 'outside-scope'
}

function inOrder(verdicts: readonly RuleStood[]): readonly RuleStood[] {
  const weight = { decides: 0, weaker: 1, 'outside-scope': 2 } as Partial<Record<RuleStanding, number>>
  return [...verdicts].sort((left, right) => (weight[left.standing] ?? 3) - (weight[right.standing] ?? 3))
}
