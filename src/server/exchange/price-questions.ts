import 'server-only'

import type { BuyerReference } from '@/core/buyers/buyer'
import { findByCode, findBySku, nearestSku } from '@/core/catalogue/find-by-code'
import type { CartLineWanted, PastPurchase } from '@/core/cart/cart'
import { priceCart } from '@/core/cart/price-cart'
import { isPositive, parseDecimal, scaleOf } from '@/core/decimal/decimal'
import { ask } from '@/core/engine/ask'
import type { PreparedStore } from '@/core/engine/context/prepared-store'
import type { BuyerContext } from '@/core/engine/context/buyer-context'
import { readPlace } from '@/core/places/iso-3166'
import { readInstant } from '@/core/predicates/instant'
import { findNearest } from '@/core/issue/issue'
import { currenciesTaken } from '@/core/store/store'
import Joi from 'joi'
import { promotionFields, readPromotionFacts, type SubmittedFacts } from './promotion-facts'
import { type CartAnswer, type ItemAnswer, toCartAnswer, toItemAnswer } from './price-answer'

/** One answer, in the order of the questions. docs/formats.md describes every field. */
export type PriceAnswer =
  | ({ readonly id: string } & ItemAnswer)
  | ({ readonly id: string } & CartAnswer)
  | { readonly id: string | null; readonly error: AnswerError }

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
const LONGEST_QUANTITY = 13
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
const question = Joi.object({ ...sharedFields, ...itemFields, ...promotionFields })
const cartQuestion = Joi.object({
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
interface SubmittedLine {
  readonly sku: string
  readonly quantity?: string | number
  readonly extras?: readonly string[]
}

/** Who asks, where and when, as it is submitted. */
interface SubmittedBuyerContext {
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

interface SubmittedItem extends SubmittedBuyerContext, SubmittedLine, SubmittedFacts {}

interface SubmittedCart extends SubmittedBuyerContext, SubmittedFacts {
  readonly lines: readonly SubmittedLine[]
  readonly past?: readonly { readonly sku: string; readonly quantity: string | number; readonly at: string }[]
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
  return questions.map((each: unknown) => answerQuestion(prepared, each, now))
}

/** Drafts by what questions call them, `draft:spring`, as if each were live. */
export type DraftStores = ReadonlyMap<string, PreparedStore>

const NO_DRAFTS: DraftStores = new Map()

/** What a question wants to be asked in; `null` for what is live. */
export function draftOfQuestion(submitted: unknown): string | null {
  const wanted = (submitted as { in?: unknown } | null)?.in
  return typeof wanted === 'string' ? wanted : null
}

/** Answers one question, or says why it cannot be answered. */
export function answerQuestion(
  live: PreparedStore,
  submitted: unknown,
  now: number,
  drafts: DraftStores = NO_DRAFTS,
): PriceAnswer {
  const isCart = typeof submitted === 'object' && submitted !== null && 'lines' in submitted
  const { error } = (isCart ? cartQuestion : question).validate(submitted, {
    convert: false,
    abortEarly: true,
  })
  const id = (submitted as { id?: unknown } | null)?.id
  if (error) return { id: typeof id === 'string' ? id : null, error: shapeError(error) }
  const wanted = draftOfQuestion(submitted)
  const prepared = wanted === null ? live : drafts.get(wanted)
  if (!prepared)
    return {
      id: String(id),
      ...unknown('unknown-draft', 'in', wanted ?? '', [...drafts.keys()]),
    }
  return isCart
    ? answerCart(prepared, submitted as SubmittedCart, now)
    : answerItem(prepared, submitted as SubmittedItem, now)
}

function answerItem(prepared: PreparedStore, submitted: SubmittedItem, now: number): PriceAnswer {
  const { id } = submitted
  const from = readBuyerContext(prepared, submitted, now)
  if ('error' in from) return { id, error: from.error }
  const line = readLine(prepared, submitted, '')
  if ('error' in line) return { id, error: line.error }
  const facts = readPromotionFacts(prepared.store, submitted)
  if (!facts.ok) return { id, error: { ...facts.error, value: cut(facts.error.value) } }
  const asked = ask(prepared, { ...from.value, ...line.value, basket: [], promotions: facts.value })
  if (!asked.ok) return { id, error: fromQuestionError([submitted], asked.error.code) }
  return { id, ...toItemAnswer(prepared, from.value, line.value, asked.value) }
}

function answerCart(prepared: PreparedStore, submitted: SubmittedCart, now: number): PriceAnswer {
  const { id } = submitted
  const from = readBuyerContext(prepared, submitted, now)
  if ('error' in from) return { id, error: from.error }
  const lines: CartLineWanted[] = []
  for (const [at, each] of submitted.lines.entries()) {
    const line = readLine(prepared, each, `lines.${at}.`)
    if ('error' in line) return { id, error: line.error }
    lines.push(line.value)
  }
  const past: PastPurchase[] = []
  for (const [at, each] of (submitted.past ?? []).entries()) {
    const line = readLine(prepared, each, `past.${at}.`)
    if ('error' in line) return { id, error: line.error }
    const instant = readMoment(each.at)
    if (instant === null)
      return {
        id,
        ...bad('bad-instant', `past.${at}.at`, each.at, 'an instant such as 2027-03-01T00:00:00Z'),
      }
    past.push({ ...line.value, at: instant })
  }
  const promotions = readPromotionFacts(prepared.store, submitted)
  if (!promotions.ok) return { id, error: { ...promotions.error, value: cut(promotions.error.value) } }
  const priced = priceCart(prepared, { ...from.value, lines, past, promotions: promotions.value })
  if (!priced.ok) return { id, error: fromQuestionError(submitted.lines, priced.error.code) }
  return { id, ...toCartAnswer(prepared, priced.value) }
}

const FIELDS = [
  ...Object.keys(sharedFields),
  ...Object.keys(itemFields),
  ...Object.keys(promotionFields),
  ...['lines', 'past'],
]

function shapeError({ details }: Joi.ValidationError): AnswerError {
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

type Read<Value> = { readonly value: Value } | { readonly error: AnswerError }

function unknown(
  code: AnswerError['code'],
  where: string,
  value: string,
  known: Iterable<string>,
): { readonly error: AnswerError } {
  return unknownNear(code, where, value, findNearest(value, known))
}

function unknownNear(
  code: AnswerError['code'],
  where: string,
  value: string,
  nearest: string | null,
): { readonly error: AnswerError } {
  const message = `there is no ${code.slice('unknown-'.length)} “${value}”${nearest ? `; the nearest is ${nearest}` : ''}`
  return { error: { code, where, value, nearest, message } }
}

function codesOf(records: ReadonlyMap<string, { readonly code: string }>): readonly string[] {
  return [...records.values()].map(({ code }) => code)
}

function readLine({ store }: PreparedStore, submitted: SubmittedLine, prefix: string): Read<CartLineWanted> {
  const { sku } = submitted
  const variant = findBySku(store.variant, sku)
  if (!variant) return unknownNear('unknown-sku', `${prefix}sku`, sku, nearestSku(store.variant, sku))
  const typed = String(submitted.quantity ?? '1')
  const quantity = typed.length > LONGEST_QUANTITY ? null : parseDecimal(typed)
  if (quantity === null || !isPositive(quantity) || scaleOf(quantity) > 3)
    return bad(
      'bad-quantity',
      `${prefix}quantity`,
      submitted.quantity,
      'a number above zero with at most three digits',
    )
  const extras: string[] = []
  for (const [at, code] of (submitted.extras ?? []).entries()) {
    const extra = findByCode(store.extra, code)
    if (!extra) return unknown('unknown-extra', `${prefix}extras.${at}`, code, codesOf(store.extra))
    extras.push(extra.id)
  }
  return { value: { variant: variant.id, quantity, extras } }
}

function readBuyerContext(
  { store }: PreparedStore,
  submitted: SubmittedBuyerContext,
  now: number,
): Read<BuyerContext> {
  const { as } = submitted
  let buyerReference: BuyerReference = { kind: 'guest' }
  if (as.account !== undefined) {
    const account = findByCode(store.account, as.account)
    if (!account) return unknown('unknown-account', 'as.account', as.account, codesOf(store.account))
    buyerReference = { kind: 'account', account: account.id }
  } else if (as.group !== undefined) {
    const group = findByCode(store.group, as.group)
    if (!group) return unknown('unknown-group', 'as.group', as.group, codesOf(store.group))
    buyerReference = { kind: 'group', group: group.id }
  }
  const passcode =
    typeof submitted.passcode === 'string' ? findByCode(store.passcode, submitted.passcode) : null
  if (!passcode && typeof submitted.passcode === 'string')
    return unknown('unknown-passcode', 'passcode', submitted.passcode, codesOf(store.passcode))
  const channel = typeof submitted.channel === 'string' ? findByCode(store.channel, submitted.channel) : null
  if (channel === null && typeof submitted.channel === 'string')
    return unknown('unknown-channel', 'channel', submitted.channel, codesOf(store.channel))
  const currency = submitted.currency ?? null
  const currencies = currenciesTaken(store)
  if (currency !== null && !currencies.includes(currency))
    return unknown('unknown-currency', 'currency', currency, currencies)
  const at = typeof submitted.at === 'string' ? readMoment(submitted.at) : now
  if (at === null) return bad('bad-instant', 'at', submitted.at, 'an instant such as 2027-03-01T00:00:00Z')
  const { deliverTo } = submitted
  const place =
    deliverTo &&
    readPlace({
      country: deliverTo.country,
      state: deliverTo.state ?? '',
      postcode: deliverTo.postcode ?? '',
      city: deliverTo.city ?? '',
    })
  if (place && !place.ok) {
    const { field, value, nearest } = place
    const message = `there is no ${field} “${value}” in ISO 3166${nearest ? `; the nearest is ${nearest}` : ''}`
    return { error: { code: `unknown-${field}`, where: `deliverTo.${field}`, value, nearest, message } }
  }
  return {
    value: {
      buyer: buyerReference,
      channel: channel?.id ?? null,
      deliverTo: place ? place.place : null,
      currency,
      passcode: passcode?.id ?? null,
      at,
    },
  }
}

/** An instant, or a day, which is its first instant in UTC. */
function readMoment(text: string): number | null {
  return readInstant(/^\d{4}-\d{2}-\d{2}$/.test(text) ? `${text}T00:00Z` : text)
}

/** Enough of a value to know it by. */
function cut(text: string): string {
  return text.length > LONGEST_WORD ? `${text.slice(0, LONGEST_WORD)}…` : text
}

function bad(
  code: AnswerError['code'],
  where: string,
  value: unknown,
  expected: string,
): { readonly error: AnswerError } {
  const text = cut(String(value))
  return { error: { code, where, value: text, nearest: null, message: `“${text}” is not ${expected}` } }
}

function fromQuestionError(lines: readonly SubmittedLine[], code: string): AnswerError {
  const extras = lines.flatMap((line) => line.extras ?? []).join(', ')
  const skus = lines.map(({ sku }) => sku).join(', ')
  return code === 'unknown-extra'
    ? {
        code: 'unknown-extra',
        where: 'extras',
        value: extras,
        nearest: null,
        message: `not every one of “${extras}” goes with ${skus}`,
      }
    : { code: 'malformed', where: '', value: code, nearest: null, message: code }
}
