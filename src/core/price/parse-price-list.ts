import { compare, decimal, negate, HUNDRED } from '../decimal/decimal'
import type { EndingRounding, RoundingRule, StepRounding } from '../decimal/rounding'
import { DraftReader } from '../issue/draft-reader'
import type { Parsed } from '../issue/issue'
import type { PriceLine, PriceList, PriceMethod } from './price-list'

export type PriceMethodDraft =
  | { readonly kind: 'fixed'; readonly amount: string }
  | { readonly kind: 'percent'; readonly percent: string; readonly reference: 'base' }
  | { readonly kind: 'amount'; readonly amount: string; readonly reference: 'base' }

export type RoundingDraft =
  | { readonly kind: 'step'; readonly step: string; readonly mode: StepRounding['mode'] }
  | {
      readonly kind: 'endings'
      readonly period: string
      readonly endings: readonly string[]
      readonly mode: EndingRounding['mode']
    }

export type PriceListDraft = Omit<PriceList, 'defaultLine' | 'rounding'> & {
  readonly defaultLine: PriceMethodDraft | null
  readonly rounding: RoundingDraft | null
}

export type PriceLineDraft = Omit<PriceLine, 'method' | 'rounding'> & {
  readonly method: PriceMethodDraft
  readonly rounding: RoundingDraft | null
}

/** Percentages are kept to this many digits: a third of a percent has no use for more. */
const PERCENT_DIGITS = 6

/** `digits` is how many digits a price of the store may have. */
export function parsePriceList(draft: PriceListDraft, digits: number): Parsed<PriceList> {
  const reader = new DraftReader('price-list', draft.code)
  if (draft.audience.include.length === 0) reader.report('empty-audience', 'audience', '')
  return reader.result({
    ...draft,
    code: reader.text('code', draft.code),
    name: reader.text('name', draft.name),
    rank: reader.wholeNumber('rank', draft.rank, 1),
    defaultLine: draft.defaultLine && parseMethod(reader, 'defaultLine', draft.defaultLine, digits),
    rounding: draft.rounding && parseRounding(reader, draft.rounding, digits),
  })
}

export function parsePriceLine(draft: PriceLineDraft, digits: number): Parsed<PriceLine> {
  const reader = new DraftReader('price-line', draft.id)
  if (draft.scope.include.length === 0) reader.report('empty-scope', 'scope', '')
  return reader.result({
    ...draft,
    position: reader.wholeNumber('position', draft.position, 0),
    method: parseMethod(reader, 'method', draft.method, digits),
    rounding: draft.rounding && parseRounding(reader, draft.rounding, digits),
  })
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
    case 'percent': {
      const percent = reader.decimal(field, draft.percent, { digits: PERCENT_DIGITS, sign: 'any' })
      if (compare(percent, negate(HUNDRED)) <= 0) reader.report('too-low', field, draft.percent, '-100')
      return { ...draft, percent }
    }
  }
}

function parseRounding(reader: DraftReader, draft: RoundingDraft, digits: number): RoundingRule {
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
