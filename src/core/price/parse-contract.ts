import { findMinorDigits } from '../currency/iso-4217'
import { InputReader } from '../issue/input-reader'
import type { Parsed } from '../issue/issue'
import { parseSchedule, parseScope } from '../predicates/parse-predicates'
import { ALWAYS } from '../predicates/when'
import type { Adjustment } from './adjustment'
import type { Contract } from './contract'
import { PERCENT_DIGITS } from './lines/parse-breaks'
import { parseRounding, type RoundingInput } from '../issue/parse-rounding'
import { compare, HUNDRED, negate } from '../decimal/decimal'

export type ContractInput = Omit<Contract, 'minimumOrder'> & { readonly minimumOrder: string | null }

export type AdjustmentInput = Omit<Adjustment, 'method' | 'rounding'> & {
  readonly method:
    | { readonly kind: 'percent'; readonly percent: string }
    | { readonly kind: 'amount'; readonly amount: string }
  readonly rounding: RoundingInput | null
}

/** `digits` is how many digits a price of the store may have. */
export function parseContract(input: ContractInput, digits: number): Parsed<Contract> {
  const reader = new InputReader('contract', input.code)
  if (input.accounts.length === 0 && input.groups.length === 0) reader.report('no-parties', 'parties', '')
  if (input.currency !== null && findMinorDigits(input.currency) === null)
    reader.report('unknown', 'currency', input.currency, 'EUR')
  const { from, to } = parseSchedule(reader, 'period', { ...ALWAYS, from: input.from, to: input.to })
  return reader.result({
    ...input,
    ...reader.codeAndName(input),
    from,
    to,
    rank: reader.wholeNumber('rank', input.rank, 1),
    minimumOrder: reader.optionalDecimal('minimumOrder', input.minimumOrder, { digits, sign: 'above-zero' }),
  })
}

/** `digits` is how many digits a price of the store may have. */
export function parseAdjustment(input: AdjustmentInput, digits: number): Parsed<Adjustment> {
  const reader = new InputReader('adjustment', input.code)
  if (input.audience.include.length === 0) reader.report('empty-audience', 'audience', '')
  parseScope(reader, 'scope', input.scope)
  return reader.result({
    ...input,
    ...reader.codeAndName(input),
    rank: reader.wholeNumber('rank', input.rank, 1),
    schedule: parseSchedule(reader, 'schedule', input.schedule),
    method: adjustmentMethod(reader, input.method, digits),
    rounding: input.rounding && parseRounding(reader, input.rounding, digits),
  })
}

function adjustmentMethod(
  reader: InputReader,
  input: AdjustmentInput['method'],
  digits: number,
): Adjustment['method'] {
  if (input.kind === 'amount')
    return { kind: 'amount', amount: reader.decimal('method', input.amount, { digits, sign: 'any' }) }
  const percent = reader.decimal('method', input.percent, { digits: PERCENT_DIGITS, sign: 'any' })
  if (compare(percent, negate(HUNDRED)) <= 0) reader.report('too-low', 'method', input.percent, '-99.99')
  return { kind: 'percent', percent }
}
