import 'server-only'

import type { BuyerReference } from '@/core/buyers/buyer'
import { findByCode, findBySku } from '@/core/catalogue/find-by-code'
import { type Decimal, isPositive, parseDecimal, scaleOf, toFixed } from '@/core/decimal/decimal'
import { ask } from '@/core/engine/ask'
import type { PreparedStore } from '@/core/engine/prepared-store'
import type { Question } from '@/core/engine/standpoint'
import type { Answer, Trace } from '@/core/engine/trace'
import { findNearest } from '@/core/issue/issue'
import { getSettings, priceDigitsOf } from '@/core/store/store'
import Joi from 'joi'

/** An amount as an answer tells it: decimal text with the digits of its currency. */
interface AnsweredAmount {
  readonly net: string
  readonly tax: string
  readonly gross: string
}

/** One answer, in the order of the questions. docs/formats.md describes every field. */
export type PriceAnswer =
  | {
      readonly id: string
      readonly currency: string
      readonly see: boolean
      readonly seePrice: boolean
      readonly buy: boolean
      /** The item with its extras; `null` without a price. */
      readonly unit: AnsweredAmount | null
      readonly total: AnsweredAmount | null
      readonly was: AnsweredAmount | null
      readonly breaks: readonly { readonly from: string; readonly unit: AnsweredAmount }[]
      readonly extras: readonly { readonly code: string; readonly unit: AnsweredAmount | null }[]
      readonly limits: QuantityLimits
      readonly because: Answer['because']
      readonly trace: Trace
    }
  | { readonly id: string | null; readonly error: AnswerError }

/** Which quantities may be bought; nothing limits them yet. */
interface QuantityLimits {
  readonly minimum: string | null
  readonly maximum: string | null
  readonly multiple: string | null
}

interface AnswerError {
  readonly code:
    | 'malformed'
    | 'unknown-field'
    | 'unknown-account'
    | 'unknown-group'
    | 'unknown-sku'
    | 'unknown-extra'
    | 'unknown-channel'
    | 'unknown-currency'
    | 'bad-quantity'
    | 'bad-instant'
  /** The field of the question. */
  readonly where: string
  readonly value: string
  readonly nearest: string | null
  readonly message: string
}

const buyer = Joi.object({
  account: Joi.string(),
  group: Joi.string(),
  guest: Joi.any(),
})
  .xor('account', 'group', 'guest')
  .messages({ 'object.xor': '{{#label}} must name one of account, group, guest' })

const questionFields = {
  id: Joi.string().required(),
  as: buyer.required(),
  sku: Joi.string().required(),
  quantity: Joi.alternatives(Joi.string(), Joi.number()),
  extras: Joi.array().items(Joi.string()),
  channel: Joi.string().allow(null),
  deliverTo: Joi.object({
    country: Joi.string().required(),
    state: Joi.string().allow('', null),
    postcode: Joi.string().allow('', null),
    city: Joi.string().allow('', null),
  }).allow(null),
  currency: Joi.string().allow(null),
  at: Joi.string().allow(null),
}
const question = Joi.object(questionFields)

/** A question as it is submitted. */
interface SubmittedQuestion {
  readonly id: string
  readonly as: { readonly account?: string; readonly group?: string; readonly guest?: unknown }
  readonly sku: string
  readonly quantity?: string | number
  readonly extras?: readonly string[]
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

/**
 * Answers each question, in order. A question that cannot be answered says why and does not keep the others from
 * being answered.
 *
 * `now` is the instant of questions that name none, in epoch milliseconds.
 *
 * Errors  `null` when the questions are no array.
 */
export function answerQuestions(
  prepared: PreparedStore,
  questions: unknown,
  now: number,
): readonly PriceAnswer[] | null {
  if (!Array.isArray(questions)) return null
  return questions.map((each: unknown) => {
    const { error } = question.validate(each, { convert: false, abortEarly: true })
    const id = (each as { id?: unknown } | null)?.id
    if (error) return { id: typeof id === 'string' ? id : null, error: shapeError(error) }
    const submitted = each as SubmittedQuestion
    const read = readQuestion(prepared, submitted, now)
    if ('error' in read) return { id: submitted.id, error: read.error }
    const asked = ask(prepared, read.question)
    if (!asked.ok) return { id: submitted.id, error: fromQuestionError(submitted, asked.error.code) }
    return { id: submitted.id, ...toAnswer(prepared, asked.value) }
  })
}

function shapeError({ details }: Joi.ValidationError): AnswerError {
  const [detail] = details
  const where = detail?.path.join('.') ?? ''
  const isUnknown = detail?.type === 'object.unknown'
  const value: unknown = detail?.context?.value
  return {
    code: isUnknown ? 'unknown-field' : 'malformed',
    where,
    value: isUnknown ? where : (JSON.stringify(value) ?? 'nothing'),
    nearest: isUnknown ? findNearest(where, Object.keys(questionFields)) : null,
    message: detail?.message ?? 'not a question',
  }
}

type Read = { readonly question: Question } | { readonly error: AnswerError }

function readQuestion({ store }: PreparedStore, submitted: SubmittedQuestion, now: number): Read {
  const { as, sku } = submitted
  const unknown = (
    code: AnswerError['code'],
    where: string,
    value: string,
    known: Iterable<string>,
  ): Read => {
    const nearest = findNearest(value, [...known])
    const message = `there is no ${code.slice('unknown-'.length)} “${value}”${nearest ? `; the nearest is ${nearest}` : ''}`
    return { error: { code, where, value, nearest, message } }
  }
  const codes = (records: ReadonlyMap<string, { readonly code: string }>) =>
    [...records.values()].map(({ code }) => code)

  let buyerReference: BuyerReference = { kind: 'guest' }
  if (as.account !== undefined) {
    const account = findByCode(store.account, as.account)
    if (!account) return unknown('unknown-account', 'as.account', as.account, codes(store.account))
    buyerReference = { kind: 'account', account: account.id }
  } else if (as.group !== undefined) {
    const group = findByCode(store.group, as.group)
    if (!group) return unknown('unknown-group', 'as.group', as.group, codes(store.group))
    buyerReference = { kind: 'group', group: group.id }
  }
  const variant = findBySku(store.variant, sku)
  if (!variant)
    return unknown(
      'unknown-sku',
      'sku',
      sku,
      [...store.variant.values()].map((each) => each.sku),
    )
  const quantity = parseDecimal(String(submitted.quantity ?? '1'))
  if (quantity === null || !isPositive(quantity) || scaleOf(quantity) > 3)
    return bad(
      'bad-quantity',
      'quantity',
      submitted.quantity,
      'a number above zero with at most three digits',
    )
  const extras: string[] = []
  for (const [at, code] of (submitted.extras ?? []).entries()) {
    const extra = findByCode(store.extra, code)
    if (!extra) return unknown('unknown-extra', `extras.${at}`, code, codes(store.extra))
    extras.push(extra.id)
  }
  const channel = typeof submitted.channel === 'string' ? findByCode(store.channel, submitted.channel) : null
  if (channel === null && typeof submitted.channel === 'string')
    return unknown('unknown-channel', 'channel', submitted.channel, codes(store.channel))
  const currency = submitted.currency ?? null
  const currencies = [
    getSettings(store).currency,
    ...[...store.currency.values()].filter(({ status }) => status === 'active').map(({ code }) => code),
  ]
  if (currency !== null && !currencies.includes(currency))
    return unknown('unknown-currency', 'currency', currency, currencies)
  const at = typeof submitted.at === 'string' ? readInstant(submitted.at) : now
  if (Number.isNaN(at))
    return bad('bad-instant', 'at', submitted.at, 'an instant such as 2027-03-01T00:00:00Z')
  const { deliverTo } = submitted
  return {
    question: {
      buyer: buyerReference,
      channel: channel?.id ?? null,
      deliverTo: deliverTo
        ? {
            country: deliverTo.country,
            state: deliverTo.state ?? '',
            postcode: deliverTo.postcode ?? '',
            city: deliverTo.city ?? '',
          }
        : null,
      currency,
      passcode: null,
      at,
      variant: variant.id,
      quantity,
      extras,
      basket: [],
    },
  }
}

/** An instant must say its offset: a local time would be another one on every machine. */
function readInstant(text: string): number {
  return /^\d{4}-\d{2}-\d{2}(T\d{2}:\d{2}(:\d{2}(\.\d+)?)?(Z|[+-]\d{2}:?\d{2}))?$/.test(text)
    ? Date.parse(text)
    : Number.NaN
}

function bad(code: AnswerError['code'], where: string, value: unknown, expected: string): Read {
  const text = String(value)
  return { error: { code, where, value: text, nearest: null, message: `“${text}” is not ${expected}` } }
}

function fromQuestionError(submitted: SubmittedQuestion, code: string): AnswerError {
  const extras = (submitted.extras ?? []).join(', ')
  return code === 'unknown-extra'
    ? {
        code: 'unknown-extra',
        where: 'extras',
        value: extras,
        nearest: null,
        message: `not every one of “${extras}” goes with ${submitted.sku}`,
      }
    : { code: 'malformed', where: '', value: code, nearest: null, message: code }
}

function toAnswer({ store }: PreparedStore, answer: Answer) {
  const digits = priceDigitsOf(store, answer.currency)
  const amount = (value: Decimal | null): AnsweredAmount | null =>
    value === null
      ? null
      : { net: toFixed(value, digits), tax: toFixed('0' as Decimal, digits), gross: toFixed(value, digits) }
  const codeOf = (id: string) => store.extra.get(id)?.code ?? id
  return {
    currency: answer.currency,
    see: answer.see,
    seePrice: answer.see && answer.unit !== null,
    buy: answer.buy,
    unit: amount(answer.unit),
    total: amount(answer.total),
    was: amount(answer.was),
    breaks: answer.breaks.map(({ from, unit }) => ({ from, unit: amount(unit) as AnsweredAmount })),
    extras: answer.extras.map(({ extra, unit }) => ({ code: codeOf(extra), unit: amount(unit) })),
    limits: { minimum: null, maximum: null, multiple: null },
    because: answer.because,
    trace: answer.trace,
  }
}
