import { findMinorDigits } from '../../currency/iso-4217'
import { InputReader } from '../../issue/input-reader'
import type { Parsed } from '../../issue/issue'
import { parseSchedule, parseScope } from '../../predicates/parse-predicates'
import { type BreaksInput, parseBreaks } from './parse-breaks'
import { parseRounding, type RoundingInput } from '../../issue/parse-rounding'
import type { PriceLine, PriceList } from './price-list'

export type PriceListInput = Omit<PriceList, 'defaultLine' | 'rounding'> & {
  readonly defaultLine: BreaksInput | null
  readonly rounding: RoundingInput | null
}

export type PriceLineInput = Omit<PriceLine, 'breaks' | 'rounding'> &
  BreaksInput & { readonly rounding: RoundingInput | null }

/** `digitsOf` tells how many digits a price in a currency may have; `null` for a currency it does not know. */
export function parsePriceList(
  input: PriceListInput,
  digitsOf: (currency: string) => number | null,
): Parsed<PriceList> {
  const reader = new InputReader('price-list', input.code)
  const digits = digitsOf(input.currency) ?? findMinorDigits(input.currency) ?? 2
  if (findMinorDigits(input.currency) === null) reader.report('unknown', 'currency', input.currency, 'EUR')
  // A list that only contracts lead to has no audience of its own.
  if (input.audience.include.length === 0 && input.purpose !== 'contract')
    reader.report('empty-audience', 'audience', '')
  parseScope(reader, 'scope', input.scope)
  return reader.result({
    ...input,
    ...reader.codeAndName(input),
    schedule: parseSchedule(reader, 'schedule', input.schedule),
    rank: reader.wholeNumber('rank', input.rank, 1),
    defaultLine: input.defaultLine && parseBreaks(reader, 'defaultLine', input.defaultLine, digits),
    rounding: input.rounding && parseRounding(reader, input.rounding, digits),
  })
}

/** `digits` is how many digits a price of the list's currency may have. */
export function parsePriceLine(input: PriceLineInput, digits: number): Parsed<PriceLine> {
  const reader = new InputReader('price-line', input.id)
  parseScope(reader, 'scope', input.scope)
  return reader.result({
    ...input,
    ...parseBreaks(reader, 'method', input, digits),
    position: reader.wholeNumber('position', input.position, 0),
    schedule: input.schedule && parseSchedule(reader, 'schedule', input.schedule),
    rounding: input.rounding && parseRounding(reader, input.rounding, digits),
  })
}
