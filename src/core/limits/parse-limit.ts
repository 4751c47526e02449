import { compare, type Decimal } from '../decimal/decimal'
import { InputReader } from '../issue/input-reader'
import type { Parsed } from '../issue/issue'
import { parseSchedule, parseScope } from '../predicates/parse-predicates'
import {
  type AllowedQuantity,
  findContradiction,
  type LimitRule,
  type QuantityLimits,
  type TotalLimits,
} from './limit'

type AsText<Fields> = { readonly [Field in keyof Fields]: string | null }
export type QuantityLimitsInput = AsText<Omit<QuantityLimits, 'values'>> & {
  readonly values: readonly { readonly quantity: string; readonly label: string }[] | null
}
export type LimitRuleInput = Omit<LimitRule, keyof QuantityLimits | keyof TotalLimits> &
  QuantityLimitsInput &
  AsText<TotalLimits>

const QUANTITY = { digits: 3, sign: 'above-zero' } as const

/** Reports what no quantity could meet. `prefix` stands before the names of the fields. */
export function parseLimits(reader: InputReader, input: QuantityLimitsInput, prefix = ''): QuantityLimits {
  const read = (field: Exclude<keyof QuantityLimits, 'values'>) =>
    reader.optionalDecimal(`${prefix}${field}`, input[field], QUANTITY)
  const limits = {
    minimum: read('minimum'),
    maximum: read('maximum'),
    multiple: read('multiple'),
    first: read('first'),
    values: input.values && parseValues(reader, input.values, `${prefix}values`),
  }
  const wrong = findContradiction(limits)
  if (wrong?.code === 'min-above-max')
    reader.report('min-above-max', `${prefix}minimum`, wrong.value, wrong.limit)
  if (wrong?.code === 'min-not-multiple')
    reader.report('not-a-multiple', `${prefix}minimum`, wrong.value, wrong.multiple)
  if (wrong?.code === 'max-below-multiple')
    reader.report('max-below-multiple', `${prefix}maximum`, wrong.value, wrong.multiple)
  if (wrong?.code === 'no-value-allowed') reader.report('no-value-allowed', `${prefix}values`, wrong.value)
  return limits
}

function parseValues(
  reader: InputReader,
  values: NonNullable<QuantityLimitsInput['values']>,
  field: string,
): readonly AllowedQuantity[] {
  const read = values.map(({ quantity, label }) => ({
    quantity: reader.decimal(field, quantity, QUANTITY),
    label: label.trim(),
  }))
  if (read.length === 0) reader.report('missing', field, '')
  read.forEach(({ quantity }, at) => {
    if (at > 0 && compare(quantity, (read[at - 1] as AllowedQuantity).quantity) <= 0)
      reader.report('unsorted-breaks', field, quantity, String(read[at - 1]?.quantity))
  })
  return read
}

/** `digits` is how many digits a price of the store may have. */
export function parseLimitRule(input: LimitRuleInput, digits: number): Parsed<LimitRule> {
  const reader = new InputReader('limit', input.code)
  if (input.audience.include.length === 0) reader.report('empty-audience', 'audience', '')
  parseScope(reader, 'scope', input.scope)
  const limits = parseLimits(reader, input)
  const value = (field: 'minimumValue' | 'maximumValue') =>
    reader.optionalDecimal(field, input[field], { digits, sign: 'above-zero' })
  const weight = (field: 'minimumWeight' | 'maximumWeight') =>
    reader.optionalDecimal(field, input[field], QUANTITY)
  const totals = {
    minimumValue: value('minimumValue'),
    maximumValue: value('maximumValue'),
    minimumWeight: weight('minimumWeight'),
    maximumWeight: weight('maximumWeight'),
  }
  checkOrder(reader, 'Value', totals.minimumValue, totals.maximumValue)
  checkOrder(reader, 'Weight', totals.minimumWeight, totals.maximumWeight)
  const setsTotals = Object.values(totals).some((each) => each !== null)
  if (setsTotals && input.counting !== 'together')
    reader.report('only-together', 'counting', input.counting, 'together')
  if (!setsTotals && Object.values(limits).every((each) => each === null))
    reader.report('no-limit', 'minimum', '')
  if (input.counting === 'together' && (limits.values !== null || limits.first !== null))
    reader.report('not-together', limits.values ? 'values' : 'first', '')
  if (input.days !== null) {
    reader.wholeNumber('days', input.days, 1)
    if (limits.maximum === null) reader.report('missing', 'maximum', '')
  }
  return reader.result({
    ...input,
    ...limits,
    ...totals,
    ...reader.codeAndName(input),
    message: input.message.trim(),
    rank: reader.wholeNumber('rank', input.rank, 1),
    schedule: parseSchedule(reader, 'schedule', input.schedule),
  })
}

function checkOrder(
  reader: InputReader,
  name: string,
  minimum: Decimal | null,
  maximum: Decimal | null,
): void {
  if (minimum !== null && maximum !== null && compare(minimum, maximum) > 0)
    reader.report('min-above-max', `minimum${name}`, minimum, maximum)
}
