import { compare, decimal } from '../decimal/decimal'
import { InputReader } from '../issue/input-reader'
import type { Parsed } from '../issue/issue'
import { parseSchedule } from '../predicates/parse-predicates'
import { ALWAYS } from '../predicates/when'
import { parsePlace } from '../places/iso-3166'
import { readPostcode } from './postcode'
import type { Tax, TaxClass, TaxRate } from './tax'

export type TaxRateInput = Omit<TaxRate, 'percent'> & { readonly percent: string }

/** Rates are published with three digits at most; one more for those computed. */
const RATE_DIGITS = 4
/** A rate above this is more often a slip than a levy: it needs a reason. */
const MOST_USUAL = decimal(50)

export function parseTaxClass(input: TaxClass): Parsed<TaxClass> {
  const reader = new InputReader('tax-class', input.code)
  return reader.result({
    ...input,
    ...reader.codeAndName(input),
    position: reader.wholeNumber('position', input.position, 0),
  })
}

export function parseTax(input: Tax): Parsed<Tax> {
  const reader = new InputReader('tax', input.code)
  return reader.result({
    ...input,
    ...reader.codeAndName(input),
    position: reader.wholeNumber('position', input.position, 0),
  })
}

export function parseTaxRate(input: TaxRateInput): Parsed<TaxRate> {
  const label = [input.country, input.state, input.postcode, input.city].filter(Boolean).join(' ')
  const reader = new InputReader('tax-rate', label || 'everywhere')
  const { country, state } = input.country === '' ? input : parsePlace(reader, input)
  if (input.country === '' && (input.state || input.postcode || input.city))
    reader.report('missing', 'country', '')
  if (input.postcode !== '' && !readPostcode(input.postcode))
    reader.report('malformed', 'postcode', input.postcode, '94103, 94* or 94100-94199')
  const percent = reader.decimal('percent', input.percent, { digits: RATE_DIGITS, sign: 'not-negative' })
  if (input.reason.trim() === '' && compare(percent, MOST_USUAL) > 0)
    reader.report('unusual-rate', 'percent', input.percent, MOST_USUAL)
  const { from, to } = parseSchedule(reader, 'period', { ...ALWAYS, from: input.from, to: input.to })
  return reader.result({
    ...input,
    country,
    state,
    postcode: input.postcode.trim().toUpperCase(),
    city: input.city.trim(),
    percent,
    from,
    to,
    reason: input.reason.trim(),
  })
}
