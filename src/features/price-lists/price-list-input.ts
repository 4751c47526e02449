import 'server-only'

import type { RoundingDraft } from '@/core/issue/parse-rounding'
import type { WhoTerm } from '@/core/predicates/who'
import Joi from 'joi'

/** What can be changed at the head of a price list; fields left out stay. Rules are still as typed. */
export interface PriceListHeadInput {
  readonly name?: string
  readonly state?: 'on' | 'off'
  readonly rank?: number
  readonly include?: readonly WhoTerm[]
  readonly exclude?: readonly WhoTerm[]
  /** A rule such as `-12%`; empty for none. */
  readonly otherwise?: string
  readonly rounding?: RoundingDraft | null
}

const terms = Joi.array().items(Joi.object({ kind: Joi.string().required() }).unknown(true))

/** The commit door checks terms and rounding to the last field; here only which fields there are. */
const head = Joi.object({
  name: Joi.string().allow(''),
  state: Joi.valid('on', 'off'),
  rank: Joi.number(),
  include: terms,
  exclude: terms,
  otherwise: Joi.string().allow('').max(40),
  rounding: Joi.object({ kind: Joi.string().required() }).unknown(true).allow(null),
}).min(1)

/** What is wrong with the shape of a submitted head; `null` when nothing is. */
export function checkHead(input: PriceListHeadInput): string | null {
  const { error } = head.validate(input, { convert: false })
  return error ? `The edit could not be read: ${error.message}.` : null
}
