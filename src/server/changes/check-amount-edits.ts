import 'server-only'

import { isBuyerCode } from '@/core/buyers/buyer-code'
import type { AmountEdit } from './edit-amounts'
import Joi from 'joi'

const seen = Joi.string().allow(null)
const typed = Joi.string().allow('').max(40)

const edits = Joi.array()
  .min(1)
  .max(10_000)
  .items(
    Joi.object({
      kind: Joi.valid('value'),
      record: Joi.valid('product', 'variant'),
      id: Joi.string(),
      field: Joi.valid('basePrice', 'cost', 'recommendedPrice', 'weight'),
      typed,
      seen,
    }),
    Joi.object({
      kind: Joi.valid('list-price'),
      list: Joi.string(),
      variant: Joi.string(),
      as: Joi.string(),
      typed,
      seen,
    }),
  )

/** What is wrong with the shape of submitted edits; `null` when nothing is. */
export function checkAmountEdits(submitted: readonly AmountEdit[], as: string): string | null {
  if (!isBuyerCode(as)) return `There is no buyer “${String(as)}”.`
  const { error } = edits.validate(submitted, { presence: 'required', convert: false })
  return error ? `The edit could not be read: ${error.message}.` : null
}
