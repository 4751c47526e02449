import type { Adjustment } from '../../price/adjustment'
import type { Contract } from '../../price/contract'
import { circumstancesAt, isForItem, matchRule } from '../../rules/match-rule'
import type { CompiledRule } from '../../rules/rule'
import { factsOf } from '../items/catalogue-index'
import type { PreparedStore } from '../context/prepared-store'
import type { PricingContext } from '../context/pricing-context'
import type { IdleAdjustment, TraceStep } from './trace'

/** The adjustments that did not move a price, with the reason. `contract` is the one the price came from. */
export function findIdleAdjustments(
  prepared: PreparedStore,
  pricingContext: PricingContext,
  number: number,
  contract: Contract | null,
  steps: readonly TraceStep[],
): readonly IdleAdjustment[] {
  const applied = new Set(gatherIn(steps, ({ applied }) => applied.map(({ adjustment }) => adjustment)))
  const leftOut = new Set(gatherIn(steps, (step) => step.leftOut))
  return prepared.adjustments
    .filter(({ rule }) => !applied.has(rule.id))
    .sort((left, right) => (left.rule.code < right.rule.code ? -1 : 1))
    .map((compiled) => ({
      adjustment: compiled.rule.id,
      reason: leftOut.has(compiled.rule.id)
        ? { code: 'nothing-left' }
        : whyIdle(prepared, pricingContext, number, contract, compiled),
    }))
}

function gatherIn(
  steps: readonly TraceStep[],
  idsOf: (step: Extract<TraceStep, { kind: 'adjustments' }>) => readonly string[],
): readonly string[] {
  return steps.flatMap((step) => {
    if (step.kind === 'adjustments') return idsOf(step)
    return step.kind === 'list-reference' ? gatherIn(step.steps, idsOf) : []
  })
}

function whyIdle(
  { store, index }: PreparedStore,
  pricingContext: PricingContext,
  number: number,
  contract: Contract | null,
  { rule, schedule }: CompiledRule<Adjustment>,
): IdleAdjustment['reason'] {
  const verdict = matchRule(rule, schedule, circumstancesAt(pricingContext))
  if (!verdict.holds) return verdict.because
  if (!isForItem(rule, factsOf(store, index, number))) return { code: 'not-for-item' }
  if (contract?.isProtected) return { code: 'protected', contract: contract.id }
  return { code: 'not-from-base' }
}
