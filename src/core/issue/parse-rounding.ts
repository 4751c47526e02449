import { compare, decimal } from '../decimal/decimal'
import type { EndingRounding, RoundingRule, StepRounding } from '../decimal/rounding'
import type { DraftReader } from './draft-reader'

export type RoundingDraft =
  | { readonly kind: 'step'; readonly step: string; readonly mode: StepRounding['mode'] }
  | {
      readonly kind: 'endings'
      readonly period: string
      readonly endings: readonly string[]
      readonly mode: EndingRounding['mode']
    }

/** `digits` is how many digits a price of the currency may have. */
export function parseRounding(reader: DraftReader, draft: RoundingDraft, digits: number): RoundingRule {
  if (draft.kind === 'step') {
    return { ...draft, step: reader.decimal('rounding', draft.step, { digits, sign: 'above-zero' }) }
  }
  const period = reader.decimal('rounding', draft.period, { digits, sign: 'above-zero' })
  const endings = draft.endings.map((ending) =>
    reader.decimal('rounding', ending, { digits, sign: 'not-negative' }),
  )
  const rising = endings.every((ending, at) => compare(ending, endings[at - 1] ?? decimal(-1)) > 0)
  if (endings.length === 0 || !rising || endings.some((ending) => compare(ending, period) >= 0)) {
    reader.report('unsorted-endings', 'rounding', draft.endings.join(', '), draft.period)
  }
  return { ...draft, period, endings }
}
