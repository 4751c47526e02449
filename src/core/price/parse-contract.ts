import { findMinorDigits } from '../currency/iso-4217'
import { DraftReader } from '../issue/draft-reader'
import type { Parsed } from '../issue/issue'
import { parseSchedule, parseScope } from '../predicates/parse-predicates'
import { ALWAYS } from '../predicates/when'
import type { Adjustment } from './adjustment'
import type { Contract } from './contract'
import { PERCENT_DIGITS } from './parse-breaks'
import { parseRounding, type RoundingDraft } from '../issue/parse-rounding'
import { compare, HUNDRED, negate } from '../decimal/decimal'

export type ContractDraft = Omit<Contract, 'minimumOrder'> & { readonly minimumOrder: string | null }

export type AdjustmentDraft = Omit<Adjustment, 'method' | 'rounding'> & {
  readonly method:
    | { readonly kind: 'percent'; readonly percent: string }
    | { readonly kind: 'amount'; readonly amount: string }
  readonly rounding: RoundingDraft | null
}

/** `digits` is how many digits a price of the store may have. */
export function parseContract(draft: ContractDraft, digits: number): Parsed<Contract> {
  const reader = new DraftReader('contract', draft.code)
  if (draft.accounts.length === 0 && draft.groups.length === 0) reader.report('no-parties', 'parties', '')
  if (draft.currency !== null && findMinorDigits(draft.currency) === null)
    reader.report('unknown', 'currency', draft.currency, 'EUR')
  const { from, to } = parseSchedule(reader, 'period', { ...ALWAYS, from: draft.from, to: draft.to })
  return reader.result({
    ...draft,
    ...reader.codeAndName(draft),
    from,
    to,
    rank: reader.wholeNumber('rank', draft.rank, 1),
    minimumOrder: reader.optionalDecimal('minimumOrder', draft.minimumOrder, { digits, sign: 'above-zero' }),
  })
}

/** `digits` is how many digits a price of the store may have. */
export function parseAdjustment(draft: AdjustmentDraft, digits: number): Parsed<Adjustment> {
  const reader = new DraftReader('adjustment', draft.code)
  if (draft.audience.include.length === 0) reader.report('empty-audience', 'audience', '')
  parseScope(reader, 'scope', draft.scope)
  return reader.result({
    ...draft,
    ...reader.codeAndName(draft),
    rank: reader.wholeNumber('rank', draft.rank, 1),
    schedule: parseSchedule(reader, 'schedule', draft.schedule),
    method: adjustmentMethod(reader, draft.method, digits),
    rounding: draft.rounding && parseRounding(reader, draft.rounding, digits),
  })
}

function adjustmentMethod(
  reader: DraftReader,
  draft: AdjustmentDraft['method'],
  digits: number,
): Adjustment['method'] {
  if (draft.kind === 'amount')
    return { kind: 'amount', amount: reader.decimal('method', draft.amount, { digits, sign: 'any' }) }
  const percent = reader.decimal('method', draft.percent, { digits: PERCENT_DIGITS, sign: 'any' })
  if (compare(percent, negate(HUNDRED)) <= 0) reader.report('too-low', 'method', draft.percent, '-99.99')
  return { kind: 'percent', percent }
}
