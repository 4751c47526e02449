import { matchWhat } from '../../predicates/what'
import { type CompiledSchedule, matchWhen } from '../../predicates/when'
import { matchWhere } from '../../predicates/where'
import { matchWho } from '../../predicates/who'
import type { Adjustment } from '../../price/adjustment'
import type { Contract } from '../../price/contract'
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
  return [...prepared.adjustments.values()]
    .filter(({ adjustment }) => !applied.has(adjustment.id))
    .sort((left, right) => (left.adjustment.code < right.adjustment.code ? -1 : 1))
    .map(({ adjustment, schedule }) => ({
      adjustment: adjustment.id,
      reason: leftOut.has(adjustment.id)
        ? { code: 'nothing-left' }
        : whyIdle(prepared, pricingContext, number, contract, adjustment, schedule),
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
  { buyer, place, at }: PricingContext,
  number: number,
  contract: Contract | null,
  adjustment: Adjustment,
  schedule: CompiledSchedule,
): IdleAdjustment['reason'] {
  if (adjustment.status === 'archived') return { code: 'archived' }
  if (adjustment.state === 'off') return { code: 'off' }
  const who = matchWho(adjustment.audience, buyer)
  if (!who.matches) return { code: 'not-for-buyer', match: who }
  const where = matchWhere(adjustment.place, place)
  if (!where.matches) return { code: 'not-here', match: where }
  const when = matchWhen(schedule, at)
  if (!when.matches)
    return {
      code: 'not-now',
      because: when.because,
      from: adjustment.schedule.from,
      to: adjustment.schedule.to,
    }
  if (!matchWhat(adjustment.scope, factsOf(store, index, number)).matches) return { code: 'not-for-item' }
  if (contract?.isProtected) return { code: 'protected', contract: contract.id }
  return { code: 'not-from-base' }
}
