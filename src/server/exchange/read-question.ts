import 'server-only'

import type { BuyerReference } from '@/core/buyers/buyer'
import type { CartLineWanted } from '@/core/cart/cart'
import { findByCode, findBySku, nearestSku } from '@/core/catalogue/find-by-code'
import { isPositive, parseDecimal, scaleOf } from '@/core/decimal/decimal'
import type { BuyerContext } from '@/core/engine/context/buyer-context'
import type { PreparedStore } from '@/core/engine/context/prepared-store'
import { findNearest } from '@/core/issue/issue'
import { readPlace } from '@/core/places/iso-3166'
import { readInstant } from '@/core/predicates/instant'
import { currenciesTaken } from '@/core/store/store'
import {
  type AnswerError,
  cut,
  LONGEST_QUANTITY,
  type SubmittedBuyerContext,
  type SubmittedLine,
} from './question-shape'

/** What was read, or what is wrong with it. */
type Read<Value> = { readonly value: Value } | { readonly error: AnswerError }

/** What is wrong where something is named that is not there, with the nearest that is. */
export function unknown(
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

/** An item and how many of it; `prefix` says where it stands in the question. */
export function readLine(
  { store }: PreparedStore,
  submitted: SubmittedLine,
  prefix: string,
): Read<CartLineWanted> {
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

/** Who asks, where and when. */
export function readBuyerContext(
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
/** Epoch milliseconds; `null` for no instant. */
export function readMoment(text: string): number | null {
  return readInstant(/^\d{4}-\d{2}-\d{2}$/.test(text) ? `${text}T00:00Z` : text)
}

/** Enough of a value to know it by. */
/** What is wrong with a value that is no such thing. */
export function bad(
  code: AnswerError['code'],
  where: string,
  value: unknown,
  expected: string,
): { readonly error: AnswerError } {
  const text = cut(String(value))
  return { error: { code, where, value: text, nearest: null, message: `“${text}” is not ${expected}` } }
}

/** What the engine would not answer, in the words of the question. */
export function fromQuestionError(lines: readonly SubmittedLine[], code: string): AnswerError {
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
