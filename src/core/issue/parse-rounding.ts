import { compare, decimal } from '../decimal/decimal'
import type { EndingRounding, RoundingRule, StepRounding } from '../decimal/rounding'
import type { InputReader } from './input-reader'

export type RoundingInput =
  | { readonly kind: 'step'; readonly step: string; readonly mode: StepRounding['mode'] }
  | {
      readonly kind: 'endings'
      readonly period: string
      readonly endings: readonly string[]
      readonly mode: EndingRounding['mode']
    }

/** `digits` is how many digits a price of the currency may have. */
export function parseRounding(reader: InputReader, input: RoundingInput, digits: number): RoundingRule {
  if (input.kind === 'step') {
    return { ...input, step: reader.decimal('rounding', input.step, { digits, sign: 'above-zero' }) }
  }
  const period = reader.decimal('rounding', input.period, { digits, sign: 'above-zero' })
  const endings = input.endings.map((ending) =>
    reader.decimal('rounding', ending, { digits, sign: 'not-negative' }),
  )
  const rising = endings.every((ending, at) => compare(ending, endings[at - 1] ?? decimal(-1)) > 0)
  if (endings.length === 0 || !rising || endings.some((ending) => compare(ending, period) >= 0)) {
    reader.report('unsorted-endings', 'rounding', input.endings.join(', '), input.period)
  }
  return { ...input, period, endings }
}
