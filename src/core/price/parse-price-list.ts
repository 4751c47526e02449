import { findMinorDigits } from '../currency/iso-4217'
import { DraftReader } from '../issue/draft-reader'
import type { Parsed } from '../issue/issue'
import { parseSchedule, parseScope } from '../predicates/parse-predicates'
import { type BreaksDraft, parseBreaks } from './parse-breaks'
import { parseRounding, type RoundingDraft } from '../issue/parse-rounding'
import type { PriceLine, PriceList } from './price-list'

export type PriceListDraft = Omit<PriceList, 'defaultLine' | 'rounding'> & {
  readonly defaultLine: BreaksDraft | null
  readonly rounding: RoundingDraft | null
}

export type PriceLineDraft = Omit<PriceLine, 'breaks' | 'rounding'> &
  BreaksDraft & { readonly rounding: RoundingDraft | null }

/** `digitsOf` tells how many digits a price in a currency may have; `null` for a currency it does not know. */
export function parsePriceList(
  draft: PriceListDraft,
  digitsOf: (currency: string) => number | null,
): Parsed<PriceList> {
  const reader = new DraftReader('price-list', draft.code)
  const digits = digitsOf(draft.currency) ?? findMinorDigits(draft.currency) ?? 2
  if (findMinorDigits(draft.currency) === null) reader.report('unknown', 'currency', draft.currency, 'EUR')
  // A list that only contracts lead to has no audience of its own.
  if (draft.audience.include.length === 0 && draft.purpose !== 'contract')
    reader.report('empty-audience', 'audience', '')
  parseScope(reader, 'scope', draft.scope)
  return reader.result({
    ...draft,
    ...reader.codeAndName(draft),
    schedule: parseSchedule(reader, 'schedule', draft.schedule),
    rank: reader.wholeNumber('rank', draft.rank, 1),
    defaultLine: draft.defaultLine && parseBreaks(reader, 'defaultLine', draft.defaultLine, digits),
    rounding: draft.rounding && parseRounding(reader, draft.rounding, digits),
  })
}

/** `digits` is how many digits a price of the list's currency may have. */
export function parsePriceLine(draft: PriceLineDraft, digits: number): Parsed<PriceLine> {
  const reader = new DraftReader('price-line', draft.id)
  parseScope(reader, 'scope', draft.scope)
  return reader.result({
    ...draft,
    ...parseBreaks(reader, 'method', draft, digits),
    position: reader.wholeNumber('position', draft.position, 0),
    schedule: draft.schedule && parseSchedule(reader, 'schedule', draft.schedule),
    rounding: draft.rounding && parseRounding(reader, draft.rounding, digits),
  })
}
