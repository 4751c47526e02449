import type { Decimal } from '@/core/decimal/decimal'
import type { TraceStep } from '@/core/engine/explain/trace'
import { priceDigitsOf } from '@/core/store/store'
import { DISPLAY_WORDS } from '../format/terms-phrases'
import type { TracePart } from './trace-part'
import { stepParts, type Wording } from './trace-sentences'

/** One step of a price's way, drawn as a bar. */
export interface TraceStepView {
  readonly parts: readonly TracePart[]
  readonly amount: Decimal
  readonly currency: string
  readonly digits: number
  /** ` with tax` or ` without tax` in a store that has both, else empty. */
  readonly taxWord: string
}

/** Each step in words, with those of a list it starts from before it. */
export function stepViews(
  wording: Wording,
  steps: readonly TraceStep[],
  { productHref, mixesBases }: { readonly productHref: string; readonly mixesBases: boolean },
): readonly TraceStepView[] {
  return flatten(steps).map((step) => ({
    parts: stepParts(wording, step, productHref),
    amount: step.amount,
    currency: step.currency,
    digits: priceDigitsOf(wording.store, step.currency),
    taxWord: mixesBases ? ` ${DISPLAY_WORDS[step.basis]}` : '',
  }))
}

function flatten(steps: readonly TraceStep[]): readonly TraceStep[] {
  return steps.flatMap((step) => (step.kind === 'list-reference' ? [...flatten(step.steps), step] : [step]))
}
