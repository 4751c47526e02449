import 'server-only'

import { findNearest } from '@/core/issue/issue'
import Joi from 'joi'
import { promotionFields, type SubmittedFacts } from './promotion-facts'

/** Why a question cannot be answered. */
export interface AnswerError {
  readonly code:
    | 'malformed'
    | 'unknown-field'
    | 'unknown-account'
    | 'unknown-group'
    | 'unknown-sku'
    | 'unknown-extra'
    | 'unknown-channel'
    | 'unknown-currency'
    | 'unknown-passcode'
    | 'bad-quantity'
    | 'bad-instant'
    | 'unknown-country'
    | 'unknown-state'
    | 'unknown-promotion'
    | 'bad-amount'
    | 'unknown-draft'
  /** The field of the question. */
  readonly where: string
  readonly value: string
  readonly nearest: string | null
  readonly message: string
}

/** Codes, and whatever else is looked up: nothing longer exists. */
const LONGEST_WORD = 100
/** Digits of a quantity, with its point: a thousand millions of thousandths. */
export const LONGEST_QUANTITY = 13
/** Lines of one cart. */
const MOST_LINES = 1_000
/** Questions of one request; more are asked in several. */
export const MOST_QUESTIONS = 1_000

const word = Joi.string().max(LONGEST_WORD)

const buyer = Joi.object({
  account: word,
  group: word,
  guest: Joi.valid(true),
})
  .xor('account', 'group', 'guest')
  .messages({ 'object.xor': '{{#label}} must name one of account, group, guest' })

const itemFields = {
  sku: word.required(),
  quantity: Joi.alternatives(word, Joi.number()),
  extras: Joi.array().items(word),
}
const sharedFields = {
  id: word.required(),
  as: buyer.required(),
  passcode: word.allow(null),
  channel: word.allow(null),
  deliverTo: Joi.object({
    country: word.required(),
    state: word.allow('', null),
    postcode: word.allow('', null),
    city: word.allow('', null),
  }).allow(null),
  currency: word.allow(null),
  at: word.allow(null),
  in: word.allow(null),
}
export const question = Joi.object({ ...sharedFields, ...itemFields, ...promotionFields })
export const cartQuestion = Joi.object({
  ...sharedFields,
  lines: Joi.array().items(Joi.object(itemFields)).min(1).max(MOST_LINES).required(),
  past: Joi.array()
    .max(MOST_LINES)
    .items(
      Joi.object({
        sku: word.required(),
        quantity: Joi.alternatives(word, Joi.number()).required(),
        at: word.required(),
      }),
    ),
  ...promotionFields,
})

/** A question as it is submitted. */
export interface SubmittedLine {
  readonly sku: string
  readonly quantity?: string | number
  readonly extras?: readonly string[]
}

/** Who asks, where and when, as it is submitted. */
export interface SubmittedBuyerContext {
  readonly id: string
  readonly as: { readonly account?: string; readonly group?: string; readonly guest?: unknown }
  readonly passcode?: string | null
  readonly channel?: string | null
  readonly deliverTo?: {
    readonly country: string
    readonly state?: string | null
    readonly postcode?: string | null
    readonly city?: string | null
  } | null
  readonly currency?: string | null
  readonly at?: string | null
}

export interface SubmittedItem extends SubmittedBuyerContext, SubmittedLine, SubmittedFacts {}

export interface SubmittedCart extends SubmittedBuyerContext, SubmittedFacts {
  readonly lines: readonly SubmittedLine[]
  readonly past?: readonly { readonly sku: string; readonly quantity: string | number; readonly at: string }[]
}

const FIELDS = [
  ...Object.keys(sharedFields),
  ...Object.keys(itemFields),
  ...Object.keys(promotionFields),
  ...['lines', 'past'],
]

export function shapeError({ details }: Joi.ValidationError): AnswerError {
  const [detail] = details
  const where = detail?.path.join('.') ?? ''
  const isUnknown = detail?.type === 'object.unknown'
  const value: unknown = detail?.context?.value
  return {
    code: isUnknown ? 'unknown-field' : 'malformed',
    where,
    value: cut(isUnknown ? where : (JSON.stringify(value) ?? 'nothing')),
    nearest: isUnknown ? findNearest(where, FIELDS) : null,
    message: cut(detail?.message ?? 'not a question'),
  }
}

/** As much of a text as an answer repeats. */
export function cut(text: string): string {
  return text.length > LONGEST_WORD ? `${text.slice(0, LONGEST_WORD)}…` : text
}
