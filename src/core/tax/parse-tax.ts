import { compare, decimal } from '../decimal/decimal'
import { DraftReader } from '../issue/draft-reader'
import type { Parsed } from '../issue/issue'
import { parseSchedule } from '../predicates/parse-predicates'
import { ALWAYS } from '../predicates/when'
import { parsePlace } from '../places/iso-3166'
import { readPostcode } from './postcode'
import type { Tax, TaxClass, TaxRate } from './tax'

export type TaxRateDraft = Omit<TaxRate, 'percent'> & { readonly percent: string }

/** Rates are published with three digits at most; one more for those computed. */
const RATE_DIGITS = 4
/** A rate above this is more often a slip than a levy: it needs a reason. */
const MOST_USUAL = decimal(50)

export function parseTaxClass(draft: TaxClass): Parsed<TaxClass> {
  const reader = new DraftReader('tax-class', draft.code)
  return reader.result({
    ...draft,
    ...reader.codeAndName(draft),
    position: reader.wholeNumber('position', draft.position, 0),
  })
}

export function parseTax(draft: Tax): Parsed<Tax> {
  const reader = new DraftReader('tax', draft.code)
  return reader.result({
    ...draft,
    ...reader.codeAndName(draft),
    position: reader.wholeNumber('position', draft.position, 0),
  })
}

export function parseTaxRate(draft: TaxRateDraft): Parsed<TaxRate> {
  const label = [draft.country, draft.state, draft.postcode, draft.city].filter(Boolean).join(' ')
  const reader = new DraftReader('tax-rate', label || 'everywhere')
  const { country, state } = draft.country === '' ? draft : parsePlace(reader, draft)
  if (draft.country === '' && (draft.state || draft.postcode || draft.city))
    reader.report('missing', 'country', '')
  if (draft.postcode !== '' && !readPostcode(draft.postcode))
    reader.report('malformed', 'postcode', draft.postcode, '94103, 94* or 94100-94199')
  const percent = reader.decimal('percent', draft.percent, { digits: RATE_DIGITS, sign: 'not-negative' })
  if (draft.reason.trim() === '' && compare(percent, MOST_USUAL) > 0)
    reader.report('unusual-rate', 'percent', draft.percent, MOST_USUAL)
  const { from, to } = parseSchedule(reader, 'period', { ...ALWAYS, from: draft.from, to: draft.to })
  return reader.result({
    ...draft,
    country,
    state,
    postcode: draft.postcode.trim().toUpperCase(),
    city: draft.city.trim(),
    percent,
    from,
    to,
    reason: draft.reason.trim(),
  })
}
