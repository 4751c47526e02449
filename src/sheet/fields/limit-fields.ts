import 'server-only'

import type { AllowedQuantity, QuantityLimits } from '@/core/limits/limit'
import { typedAmount } from '@/core/decimal/written-amount'
import { amountField, type FieldRule, type Fields, partsOf } from './field-rule'

type Words = readonly [field: Exclude<keyof QuantityLimits, 'values'>, name: string, hint?: string]

const QUANTITY_FIELDS: readonly Words[] = [
  ['minimum', 'At least'],
  ['maximum', 'At most'],
  ['multiple', 'In multiples of', 'A case of 12 is sold as 12, 24, 36 …'],
  ['first', 'First quantity', 'What the quantity field of the shop shows first.'],
]

const VALUES_HINT = 'Quantities between commas, with a name where one helps: 6, 12 = one case, 24'

function writeValues(values: readonly AllowedQuantity[] | null): string {
  return (values ?? []).map(({ quantity, label }) => (label ? `${quantity} = ${label}` : quantity)).join(', ')
}

function readValues(text: string) {
  const parts = partsOf(text, ',')
  if (parts.length === 0) return null
  return parts.map((part) => {
    const [quantity = '', ...label] = part.split('=')
    return { quantity: quantity.trim(), label: label.join('=').trim() }
  })
}

/** The limits of a rule, field by field. */
export const ruleLimits: readonly FieldRule[] = [
  ...QUANTITY_FIELDS.map((words) => amountField(words)),
  {
    field: 'values',
    name: 'Only these quantities',
    hint: VALUES_HINT,
    control: 'text',
    write: (record) => writeValues(record['values'] as QuantityLimits['values']),
    read: (text) => ({ ok: true, value: { values: readValues(text) } }),
  },
]

/** The limits set on a product or variant: each that is empty is taken over from the level above. */
export const ownLimits: readonly FieldRule[] = [
  ...QUANTITY_FIELDS.map(([field, name, hint = '']): FieldRule => ({
    field: `limits.${field}`,
    name,
    hint: `${hint} Empty takes over what the level above says.`.trim(),
    control: 'text',
    write: (record) => limitsOf(record)[field] ?? '',
    read: (text, record) => withLimit(record, field, typedAmount(text) || null),
  })),
  {
    field: 'limits.values',
    name: 'Only these quantities',
    hint: VALUES_HINT,
    control: 'text',
    write: (record) => writeValues(limitsOf(record).values),
    read: (text, record) => withLimit(record, 'values', readValues(text)),
  },
]

function limitsOf(record: Fields): QuantityLimits {
  return record['limits'] as QuantityLimits
}

function withLimit(record: Fields, field: keyof QuantityLimits, value: unknown) {
  return { ok: true, value: { limits: { ...limitsOf(record), [field]: value } } } as const
}
