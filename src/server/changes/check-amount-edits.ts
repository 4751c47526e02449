import 'server-only'

import { isBuyerCode } from '@/core/buyers/buyer-code'
import type { Vantage } from '@/core/engine/context/vantage'
import type { AmountEdit } from './edit-amounts'
import Joi from 'joi'

const seen = Joi.string().allow(null)
const typed = Joi.string().allow('').max(40)

const vantage = Joi.object({
  as: Joi.string().custom((text: string, helpers) =>
    isBuyerCode(text) ? text : helpers.error('any.invalid'),
  ),
  buying: Joi.number().positive(),
  channel: Joi.string().allow(null),
  deliverTo: Joi.string().allow(null),
  currency: Joi.string().allow(null),
  on: Joi.string().allow(null),
  draft: Joi.string().max(100).allow(null),
})

const edits = Joi.array()
  .min(1)
  .max(10_000)
  .items(
    Joi.object({
      kind: Joi.valid('value'),
      record: Joi.valid('product', 'variant'),
      id: Joi.string(),
      field: Joi.valid('basePrice', 'cost', 'recommendedPrice', 'floor', 'weight'),
      typed,
      seen,
    }),
    Joi.object({
      kind: Joi.valid('list-price'),
      list: Joi.string().allow(''),
      variant: Joi.string(),
      only: Joi.boolean().optional(),
      from: vantage,
      typed,
      seen,
    }),
  )

/** What is wrong with the shape of submitted edits; `null` when nothing is. */
export function checkAmountEdits(submitted: readonly AmountEdit[]): string | null {
  const { error } = edits.validate(submitted, { presence: 'required', convert: false })
  return error ? `The edit could not be read: ${error.message}.` : null
}

/** What is wrong with the shape of vantages sent with an edit; `null` when nothing is. */
export function checkVantages(submitted: readonly Vantage[]): string | null {
  const { error } = Joi.array()
    .items(vantage)
    .min(1)
    .validate(submitted, { presence: 'required', convert: false })
  return error ? `The vantage could not be read: ${error.message}.` : null
}
