import { compare, HUNDRED, negate } from '../decimal/decimal'
import type { DraftReader } from '../issue/draft-reader'
import type { Breaks, PriceMethod, PriceReference } from './price-method'

export type PriceMethodDraft =
  | { readonly kind: 'fixed'; readonly amount: string }
  | { readonly kind: 'percent'; readonly percent: string; readonly reference: PriceReference }
  | { readonly kind: 'amount'; readonly amount: string; readonly reference: PriceReference }
  | { readonly kind: 'markup'; readonly percent: string }
  | { readonly kind: 'margin'; readonly percent: string }

export type BreaksDraft = Omit<Breaks, 'breaks'> & {
  readonly breaks: readonly { readonly from: string; readonly method: PriceMethodDraft }[]
}

/** Percentages are kept to this many digits: a third of a percent has no use for more. */
export const PERCENT_DIGITS = 6

/** Quantities: a gram of a kilogram. */
const QUANTITY_DIGITS = 3

/** Breaks must rise: two that start at one quantity contradict each other. */
export function parseBreaks(reader: DraftReader, field: string, draft: BreaksDraft, digits: number): Breaks {
  if (draft.breaks.length === 0) reader.report('no-breaks', field, '')
  const breaks = draft.breaks.map(({ from, method }) => ({
    from: reader.decimal(field, from, { digits: QUANTITY_DIGITS, sign: 'not-negative' }),
    method: parseMethod(reader, field, method, digits),
  }))
  const unsorted = breaks.find(({ from }, at) => at > 0 && compare(from, breaks[at - 1]?.from ?? from) <= 0)
  if (unsorted)
    reader.report('unsorted-breaks', field, breaks.map(({ from }) => from).join(', '), unsorted.from)
  return { breaks, counting: draft.counting, pricing: draft.pricing }
}

function parseMethod(
  reader: DraftReader,
  field: string,
  draft: PriceMethodDraft,
  digits: number,
): PriceMethod {
  switch (draft.kind) {
    case 'fixed':
      return { kind: 'fixed', amount: reader.decimal(field, draft.amount, { digits, sign: 'above-zero' }) }
    case 'amount':
      return { ...draft, amount: reader.decimal(field, draft.amount, { digits, sign: 'any' }) }
    case 'percent':
    case 'markup':
    case 'margin': {
      const percent = reader.decimal(field, draft.percent, { digits: PERCENT_DIGITS, sign: 'any' })
      if (compare(percent, negate(HUNDRED)) <= 0) reader.report('too-low', field, draft.percent, '-99.99')
      if (draft.kind === 'margin' && compare(percent, HUNDRED) >= 0)
        reader.report('margin-too-high', field, draft.percent, '99.9')
      return { ...draft, percent }
    }
  }
}
