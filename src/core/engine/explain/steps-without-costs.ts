import type { TraceStep } from './trace'

/** How a price came about, for somebody who must not know what it started from where that was a cost. */
export function stepsWithoutCosts(steps: readonly TraceStep[]): readonly TraceStep[] {
  return steps
    .filter((step) => step.kind !== 'reference' || step.field !== 'cost')
    .map((step) =>
      step.kind === 'list-reference' ? { ...step, steps: stepsWithoutCosts(step.steps) } : step,
    )
}
