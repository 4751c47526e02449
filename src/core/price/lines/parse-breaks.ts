import { compare, HUNDRED, negate } from '../../decimal/decimal'
import type { InputReader } from '../../issue/input-reader'
import type { Breaks, PriceMethod, PriceReference } from './price-method'

export type PriceMethodInput =
  | { readonly kind: 'fixed'; readonly amount: string }
  | { readonly kind: 'percent'; readonly percent: string; readonly reference: PriceReference }
  | { readonly kind: 'amount'; readonly amount: string; readonly reference: PriceReference }
  | { readonly kind: 'markup'; readonly percent: string }
  | { readonly kind: 'margin'; readonly percent: string }

export type BreaksInput = Omit<Breaks, 'breaks'> & {
  readonly breaks: readonly { readonly from: string; readonly method: PriceMethodInput }[]
}

/** Percentages are kept to this many digits: a third of a percent has no use for more. */
export const PERCENT_DIGITS = 6

/** Quantities: a gram of a kilogram. */
const QUANTITY_DIGITS = 3

/** Breaks must rise: two that start at one quantity contradict each other. */
export function parseBreaks(reader: InputReader, field: string, input: BreaksInput, digits: number): Breaks {
  if (input.breaks.length === 0) reader.report('no-breaks', field, '')
  const breaks = input.breaks.map(({ from, method }) => ({
    from: reader.decimal(field, from, { digits: QUANTITY_DIGITS, sign: 'not-negative' }),
    method: parseMethod(reader, field, method, digits),
  }))
  const unsorted = breaks.find(({ from }, at) => at > 0 && compare(from, breaks[at - 1]?.from ?? from) <= 0)
  if (unsorted)
    reader.report('unsorted-breaks', field, breaks.map(({ from }) => from).join(', '), unsorted.from)
  return { breaks, counting: input.counting, pricing: input.pricing }
}

function parseMethod(
  reader: InputReader,
  field: string,
  input: PriceMethodInput,
  digits: number,
): PriceMethod {
  switch (input.kind) {
    case 'fixed':
      return { kind: 'fixed', amount: reader.decimal(field, input.amount, { digits, sign: 'above-zero' }) }
    case 'amount':
      return { ...input, amount: reader.decimal(field, input.amount, { digits, sign: 'any' }) }
    case 'percent':
    case 'markup':
    case 'margin': {
      const percent = reader.decimal(field, input.percent, { digits: PERCENT_DIGITS, sign: 'any' })
      if (compare(percent, negate(HUNDRED)) <= 0) reader.report('too-low', field, input.percent, '-99.99')
      if (input.kind === 'margin' && compare(percent, HUNDRED) >= 0)
        reader.report('margin-too-high', field, input.percent, '99.9')
      return { ...input, percent }
    }
  }
}
