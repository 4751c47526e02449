import 'server-only'

import { parseDecimal } from '@/core/decimal/decimal'
import type { OrderDocument } from '@/core/order/order'
import type { OrderEvent } from '@/core/order/order-event'
import Joi from 'joi'

/** Pieces of shapes that quotes are made of as well. */
export const text = Joi.string().allow('').required()
export const amount = Joi.string()
  .custom((value: string, helpers) => parseDecimal(value) ?? helpers.error('any.invalid'))
  .required()
export const maybe = amount.allow(null)
export const object = (fields: Joi.PartialSchemaMap) => Joi.object(fields).required()
/** A required item would have to be there at least once. */
export const list = (item: Joi.Schema) => Joi.array().items(item.optional()).required()
const sums = { net: amount, tax: amount, gross: amount }

export const ADDRESS = object({
  name: text,
  street: text,
  postcode: text,
  city: text,
  state: text,
  country: text,
})
/** Steps are made and read by the core alone; which fields each has is told by its kind. */
export const TRACE = list(Joi.object({ kind: Joi.string().required() }).unknown())

const line = object({
  variant: text,
  sku: text,
  name: text,
  quantity: amount,
  extras: list(object({ id: text, name: text })),
  unit: object({ net: amount, gross: amount }),
  perUnit: object({ amount, per: text }).allow(null),
  ...sums,
  taxes: list(object({ name: text, percent: amount, amount })),
  before: object({ net: amount, gross: amount }),
  promotions: list(text),
  isGift: Joi.boolean().required(),
  base: maybe,
  cost: maybe,
  list: text.allow(null),
  contract: text.allow(null),
  trace: TRACE,
})

export const ORDER = object({
  version: Joi.valid(2).required(),
  currency: text,
  digits: Joi.number().integer().required(),
  display: Joi.valid('net', 'gross', 'both').required(),
  buyer: text,
  email: text,
  address: ADDRESS,
  payment: text,
  reference: text,
  // Orders of before 2 December 2026 do not say them.
  taxNumber: Joi.string().allow('').default(''),
  slipNote: Joi.string().allow('').default(''),
  quote: Joi.number().integer().allow(null).default(null),
  placedBy: text.allow(null),
  changeSet: Joi.number().integer().allow(null).required(),
  lines: list(line),
  goods: object(sums),
  delivery: object(sums),
  paymentCharge: object(sums),
  promotions: list(object({ id: text, name: text, saving: amount, uses: Joi.number().integer().required() })),
  taxes: list(object({ name: text, percent: amount, on: amount, amount })),
  total: object(sums),
  untaxed: Joi.valid('certificate', 'reverse-charge', null).required(),
})

const parts = list(object({ line: Joi.number().integer().min(0).required(), quantity: amount }))
const step = (kind: string, fields: Joi.PartialSchemaMap = {}) =>
  object({ kind: Joi.valid(kind).required(), ...fields })

/** A step as it is submitted, and as it is kept. */
export const STEP = Joi.alternatives()
  .try(
    step('confirm'),
    step('send', { parts, tracking: text.max(100) }),
    step('invoice'),
    step('close'),
    step('cancel', { reason: text.max(500) }),
    step('return', { parts, reason: text.max(500), restocks: Joi.boolean().required() }),
    step('note', { text: text.max(2_000) }),
  )
  .required()

const EVENT = object({
  step: STEP,
  at: Joi.number().required(),
  author: text,
  document: Joi.number().integer().allow(null).required(),
})

/**
 * An order as it was kept, whichever version it was written in.
 *
 * Errors  throws `RangeError` for anything else: it was written by nobody here.
 */
export function readOrder(stored: unknown): OrderDocument {
  return parsed<OrderDocument>(ORDER, isFirst(stored) ? fromFirst(stored) : stored, 'order')
}

/** What was done with an order, as it was kept. Errors as of `readOrder`. */
export function readEvent(stored: unknown): OrderEvent {
  return parsed<OrderEvent>(EVENT, stored, 'event of an order')
}

/** Errors  throws `RangeError` for what has not the shape: nobody here wrote it. */
export function parsed<Value>(shape: Joi.Schema, stored: unknown, what: string): Value {
  const { error, value } = shape.validate(stored, { convert: false, abortEarly: true }) as {
    readonly error?: Joi.ValidationError
    readonly value: Value
  }
  if (error) throw new RangeError(`this is no ${what}: ${error.message}`)
  return value
}

type Fields = Readonly<Record<string, unknown>>

function isFirst(stored: unknown): stored is Fields {
  return typeof stored === 'object' && stored !== null && !('version' in stored)
}

const NOTHING = { net: '0', tax: '0', gross: '0' }

/** Orders from before 1 December 2026: the first of them did not say everything either. */
function fromFirst(stored: Fields): Fields {
  const lines = (stored['lines'] ?? []) as readonly Fields[]
  const taxes = (stored['taxes'] ?? []) as readonly Fields[]
  // Where there was but one tax, all that a line was taxed is of it.
  const only = taxes.length === 1 ? taxes[0] : undefined
  return {
    display: 'net',
    paymentCharge: NOTHING,
    promotions: [],
    ...stored,
    version: 2,
    reference: '',
    placedBy: null,
    changeSet: null,
    lines: lines.map((each) => ({
      perUnit: null,
      before: { net: each['net'], gross: each['gross'] },
      promotions: [],
      isGift: false,
      ...each,
      extras: ((each['extras'] ?? []) as readonly string[]).map((name) => ({ id: '', name })),
      taxes:
        only && each['tax'] !== '0'
          ? [{ name: only['name'], percent: only['percent'], amount: each['tax'] }]
          : [],
      base: null,
      cost: null,
      list: null,
      contract: null,
      trace: [],
    })),
  }
}
