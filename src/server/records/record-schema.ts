import 'server-only'

import { PURPOSES } from '@/core/price/price-list'
import type { RecordKind } from '@/core/issue/issue'
import Joi from 'joi'

/**
 * The shape of every record as it may be submitted. Meaning (amounts, references, order) is the business
 * of `parseRecord` and `checkChanges` in the core; here only what JSON can get wrong.
 */
const text = Joi.string().allow('')
const id = Joi.string()
const amount = Joi.string().allow('', null)
const position = Joi.number()
const stringMap = Joi.object().pattern(Joi.string(), Joi.string())
const inherited = { basePrice: amount, cost: amount, recommendedPrice: amount, weight: amount }

const term = (kind: string, fields: Joi.PartialSchemaMap = {}) =>
  Joi.object({ kind: Joi.valid(kind), ...fields })

const whoTerm = Joi.alternatives(
  term('everyone'),
  term('guests'),
  term('signed-in'),
  term('trade'),
  term('group', { group: id }),
  term('account', { account: id }),
  term('tag', { tag: Joi.string() }),
  term('email', { email: Joi.string() }),
)

const whatTerm = Joi.alternatives(
  term('everything'),
  term('category', { category: id, descendants: Joi.boolean() }),
  term('attribute', { name: Joi.string(), value: Joi.string() }),
  term('product', { product: id }),
  term('variant', { variant: id }),
)

const who = Joi.object({ include: Joi.array().items(whoTerm), exclude: Joi.array().items(whoTerm) })
const what = Joi.object({ include: Joi.array().items(whatTerm), exclude: Joi.array().items(whatTerm) })

const method = Joi.alternatives(
  term('fixed', { amount: text }),
  term('percent', { percent: text, reference: Joi.valid('base') }),
  term('amount', { amount: text, reference: Joi.valid('base') }),
)

const rounding = Joi.alternatives(
  term('step', { step: text, mode: Joi.valid('half-up', 'half-even', 'up', 'down') }),
  term('endings', {
    period: text,
    endings: Joi.array().items(text),
    mode: Joi.valid('up', 'down', 'nearest'),
  }),
).allow(null)

const SCHEMAS: Readonly<Record<RecordKind, Joi.ObjectSchema>> = {
  settings: Joi.object({
    id: Joi.valid('settings'),
    name: text,
    currency: text,
    priceDigits: Joi.number(),
    timeZone: text,
    country: text,
  }),
  category: Joi.object({ id, code: text, name: text, parent: id.allow(null), position }),
  product: Joi.object({
    id,
    code: text,
    name: text,
    description: text,
    picture: text,
    unit: text,
    status: Joi.valid('active', 'archived'),
    categories: Joi.array().items(id).unique(),
    attributes: stringMap,
    axes: Joi.array().items(Joi.string()).unique(),
    ...inherited,
  }),
  variant: Joi.object({ id, sku: text, product: id, options: stringMap, position, ...inherited }),
  group: Joi.object({ id, code: text, name: text, trade: Joi.boolean(), position }),
  account: Joi.object({
    id,
    code: text,
    name: text,
    country: text,
    city: text,
    groups: Joi.array().items(id).unique(),
    tags: Joi.array().items(Joi.string()).unique(),
    emails: Joi.array().items(text).unique(),
  }),
  'price-list': Joi.object({
    id,
    code: text,
    name: text,
    purpose: Joi.valid(...PURPOSES),
    state: Joi.valid('on', 'off'),
    audience: who,
    rank: Joi.number(),
    defaultLine: method.allow(null),
    rounding,
  }),
  'price-line': Joi.object({ id, list: id, position, scope: what, method, rounding }),
}

/** What is wrong with the shape of a submitted record: the field and what was found there. */
export interface ShapeError {
  readonly field: string
  readonly value: string
  readonly expected: string
}

/** Checks the shape of a submitted record; an empty list means it has the shape of its kind. */
export function checkShape(kind: RecordKind, draft: unknown): readonly ShapeError[] {
  const { error } = SCHEMAS[kind].validate(draft, { presence: 'required', convert: false, abortEarly: false })
  return (error?.details ?? []).map(({ path, message, context }) => ({
    field: path.join('.') || kind,
    value: String(JSON.stringify(context?.['value'])),
    expected: message,
  }))
}
