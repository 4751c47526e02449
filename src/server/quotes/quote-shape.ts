import 'server-only'

import type { QuoteRequest } from '@/core/quote/quote'
import { LOST_REASONS, type QuoteEvent } from '@/core/quote/quote-event'
import Joi from 'joi'
import { ADDRESS, amount, list, maybe, object, ORDER, parsed, text, TRACE } from '../orders/order-shape'

const whole = Joi.number().integer().min(0)
const position = whole.required()
const extras = list(object({ id: text, name: text }))
const named = { variant: text, sku: text, name: text, extras, quantity: amount }

const REQUEST = object({
  version: Joi.valid(1).required(),
  currency: text,
  digits: position,
  priceDigits: position,
  basis: Joi.valid('net', 'gross').required(),
  channel: text.allow(null),
  buyer: text,
  asker: text,
  askedBy: text.allow(null),
  email: text,
  address: ADDRESS,
  lines: list(object({ ...named, their: maybe, wish: maybe })),
  neededBy: text,
  message: text,
  terms: text,
})

const OFFER = object({
  lines: list(
    object({
      ...named,
      asked: whole.allow(null).required(),
      insteadOf: whole.allow(null).required(),
      note: text,
      their: maybe,
      price: amount,
      net: amount,
      gross: amount,
      cost: maybe,
      trace: TRACE,
    }),
  ),
  until: text,
  terms: text,
  delivery: text,
  document: ORDER,
})

const step = (kind: string, fields: Joi.PartialSchemaMap = {}) =>
  object({ kind: Joi.valid(kind).required(), ...fields })

const STEP = Joi.alternatives()
  .try(
    step('offer', { offer: OFFER, message: text }),
    step('ask-approval', { offer: OFFER, message: text }),
    step('approve'),
    step('send-back', { reason: text }),
    step('refuse', { message: text }),
    step('answer', { message: text }),
    step('decline', { reason: Joi.valid(...LOST_REASONS).required(), message: text }),
    step('accept', { lines: list(position), order: position }),
    step('expire'),
    step('note', { text }),
    step('keep-prices', { draft: text, list: text }),
  )
  .required()

const EVENT = object({ step: STEP, at: Joi.number().required(), author: text })

/** A request as it was kept. Errors  throws `RangeError` for anything else: it was written by nobody here. */
export function readRequest(stored: unknown): QuoteRequest {
  return parsed<QuoteRequest>(REQUEST, stored, 'request for a quote')
}

/** What was done with a quote, as it was kept. Errors as of `readRequest`. */
export function readQuoteEvent(stored: unknown): QuoteEvent {
  return parsed<QuoteEvent>(EVENT, stored, 'event of a quote')
}

/** An offer as it is written: nothing of it counts before it is sent. */
export interface WorkingOffer {
  readonly lines: readonly WorkingLine[]
  readonly until: string
  readonly terms: string
  readonly delivery: string
  readonly message: string
}

export interface WorkingLine {
  readonly sku: string
  /** Codes. */
  readonly extras: readonly string[]
  /** As they were typed. */
  readonly quantity: string
  readonly price: string
  readonly asked: number | null
  readonly insteadOf: number | null
  readonly note: string
}

const WORKING = object({
  lines: list(
    object({
      sku: text.max(100),
      extras: list(text.max(100)),
      quantity: text.max(40),
      price: text.max(40),
      asked: whole.allow(null).required(),
      insteadOf: whole.allow(null).required(),
      note: text.max(300),
    }),
  ).max(1_000),
  until: text.max(10),
  terms: text.max(200),
  delivery: text.max(200),
  message: text.max(4_000),
})

/** What was submitted as an offer that is being written; `null` where it is none. */
export function parseWorking(submitted: unknown): WorkingOffer | null {
  const { error, value } = WORKING.validate(submitted, { convert: false }) as {
    readonly error?: Error
    readonly value: WorkingOffer
  }
  return error ? null : value
}
