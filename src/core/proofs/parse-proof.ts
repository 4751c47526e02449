import { compare, decimal, type Decimal } from '../decimal/decimal'
import { InputReader } from '../issue/input-reader'
import type { Parsed } from '../issue/issue'
import { parseSchedule, parseScope } from '../predicates/parse-predicates'
import { CLAIM_VALUES, type Proof } from './proof'

export type ProofInput = Omit<Proof, 'value' | 'quantity'> & {
  readonly value: string | null
  readonly quantity: string
}

const PERCENT = { digits: 4, sign: 'any' } as const
const QUANTITY = { digits: 3, sign: 'above-zero' } as const
const HUNDRED = decimal(100)

/** `digitsOf` is how many digits a price in a currency may have. */
export function parseProof(
  input: ProofInput,
  digitsOf: (currency: string) => number,
  home: string,
): Parsed<Proof> {
  const reader = new InputReader('proof', input.code)
  if (input.audience.include.length === 0) reader.report('empty-audience', 'audience', '')
  parseScope(reader, 'scope', input.scope)
  const kind = CLAIM_VALUES[input.claim]
  if (kind && (input.value ?? '').trim() === '') reader.report('missing', 'value', '')
  const value = kind ? readValue(reader, input, kind, digitsOf(input.currency ?? home)) : null
  return reader.result({
    ...input,
    ...reader.codeAndName(input),
    rank: reader.wholeNumber('rank', input.rank, 1),
    schedule: parseSchedule(reader, 'schedule', input.schedule),
    value,
    // A proof about anything but money has no currency to be in.
    currency: kind === 'money' ? input.currency : null,
    quantity: reader.decimal('quantity', input.quantity, QUANTITY),
    reason: input.reason.trim(),
  })
}

function readValue(
  reader: InputReader,
  { value, claim }: ProofInput,
  kind: NonNullable<(typeof CLAIM_VALUES)[keyof typeof CLAIM_VALUES]>,
  digits: number,
): Decimal | null {
  if (kind === 'money') return reader.optionalDecimal('value', value, { digits, sign: 'above-zero' })
  if (kind === 'quantity') return reader.optionalDecimal('value', value, QUANTITY)
  const percent = reader.optionalDecimal('value', value, PERCENT)
  const isMargin = claim === 'margin-at-least' || claim === 'average-margin-at-least'
  if (isMargin && percent !== null && compare(percent, HUNDRED) >= 0)
    reader.report('margin-too-high', 'value', percent, '99.9')
  return percent
}
