import 'server-only'

import { CLAIMS } from '@/core/proofs/proof'

import { CONTRACT_STATES } from '@/core/price/contract'
import { PURPOSES } from '@/core/price/lines/price-list'
import { ROUNDING_MODES } from '@/core/decimal/rounding'
import { EFFECTS, GATES } from '@/core/access/access'
import { findNearest, type RecordKind } from '@/core/issue/issue'
import { findTextFault } from '@/core/issue/text-fault'
import { PAYMENTS } from '@/core/promotions/promotion'
import Joi from 'joi'

/**
 * The shape of every record as it may be submitted. Meaning (amounts, references, order) is the business
 * of `parseRecord` and `checkChanges` in the core; here only what JSON can get wrong.
 */
const text = Joi.string().allow('')
const id = Joi.string()
const amount = Joi.string().allow('', null)
const position = Joi.number()
const status = Joi.valid('active', 'archived')
const state = Joi.valid('on', 'off')
const taxBasis = Joi.valid('net', 'gross')
const policy = Joi.valid('first', 'lowest')
const ids = Joi.array().items(id).unique()
const stringMap = Joi.object().pattern(Joi.string(), Joi.string())
const referenceAmounts = { basePrice: amount, cost: amount, recommendedPrice: amount, floor: amount }
const quantityLimits = {
  minimum: amount,
  maximum: amount,
  multiple: amount,
  first: amount,
  values: Joi.array()
    .items(Joi.object({ quantity: text, label: text }))
    .allow(null),
}
const taxDisplay = Joi.valid('net', 'gross', 'both')
const inherited = {
  taxClass: id.allow(null),
  content: text.allow(null),
  limits: Joi.object(quantityLimits),
  ...referenceAmounts,
  weight: amount,
  ownAmounts: Joi.object().pattern(Joi.string(), Joi.object(referenceAmounts)),
  family: id.allow(null),
  status,
}

const term = (kind: string, fields: Joi.PartialSchemaMap = {}) =>
  Joi.object({ kind: Joi.valid(kind), ...fields })

/** One of several objects that differ by their kind, so that an error names the one that was meant. */
const oneOf = (...terms: readonly Joi.ObjectSchema[]) => {
  const kinds = terms.map((each) => each.extract('kind'))
  return Joi.alternatives().conditional('.kind', {
    switch: terms.map((then, at) => ({ is: kinds[at] as Joi.Schema, then }) as Joi.SwitchCases),
    otherwise: Joi.object({ kind: Joi.alternatives(...kinds) }).unknown(),
  } as Joi.WhenSchemaOptions)
}

const whoTerm = oneOf(
  term('everyone'),
  term('guests'),
  term('signed-in'),
  term('trade'),
  term('group', { group: id }),
  term('account', { account: id }),
  term('tag', { tag: Joi.string() }),
  term('passcode', { passcode: id }),
  term('email', { email: Joi.string() }),
)

const whatTerm = oneOf(
  term('everything'),
  term('category', { category: id, descendants: Joi.boolean() }),
  term('family', { family: id }),
  term('attribute', { name: Joi.string(), value: Joi.string() }),
  term('price-range', { from: amount, to: amount }),
  term('stock', { state: Joi.valid('in-stock', 'out-of-stock') }),
  term('product', { product: id }),
  term('variant', { variant: id }),
  term('extra', { extra: id }),
)

const whereTerm = oneOf(
  term('channel', { channel: id }),
  term('channel-group', { group: Joi.string() }),
  term('region', { region: id }),
)

const predicate = (terms: Joi.Schema) =>
  Joi.object({ include: Joi.array().items(terms), exclude: Joi.array().items(terms) })
const who = predicate(whoTerm)
const what = predicate(whatTerm)

/** The shapes of an audience and a scope, for what is no record. */
export const WHO_SHAPE = who
export const WHAT_SHAPE = what
const where = predicate(whereTerm)

const hours = Joi.object({ from: text, to: text })
const when = Joi.object({
  from: text.allow(null),
  to: text.allow(null),
  months: Joi.array().items(Joi.number()),
  weekdays: Joi.array().items(Joi.number()),
  hours: hours.allow(null),
  overrides: Joi.object().pattern(Joi.string().valid('1', '2', '3', '4', '5', '6', '7'), hours.allow(null)),
})

const reference = oneOf(term('base'), term('recommended'), term('cost'), term('list', { list: id }))
const method = oneOf(
  term('fixed', { amount: text }),
  term('percent', { percent: text, reference }),
  term('amount', { amount: text, reference }),
  term('markup', { percent: text }),
  term('margin', { percent: text }),
)
const breaks = {
  breaks: Joi.array().items(Joi.object({ from: text, method })),
  counting: Joi.valid('variant', 'product', 'line'),
  pricing: Joi.valid('all-units', 'graduated'),
}

const rounding = oneOf(
  term('step', { step: text, mode: Joi.valid(...ROUNDING_MODES) }),
  term('endings', {
    period: text,
    endings: Joi.array().items(text),
    mode: Joi.valid('up', 'down', 'nearest'),
  }),
).allow(null)

const assortmentTerm = oneOf(
  term('category', { category: id }),
  term('product', { product: id }),
  term('variant', { variant: id }),
)
const assortment = Joi.object({
  start: Joi.valid('everything', 'nothing'),
  include: Joi.array().items(assortmentTerm),
  exclude: Joi.array().items(assortmentTerm),
}).allow(null)
const rule = { audience: who, scope: what, place: where, schedule: when, rank: Joi.number() }

const count = Joi.number().allow(null)
const money = Joi.object({ amount: text, own: Joi.object().pattern(Joi.string(), text) })
const percentOff = term('percent', { percent: text })
const amountOff = term('amount', { amount: money })
const pricedAt = term('price', { price: money })
const saving = oneOf(percentOff, amountOff, pricedAt)
const promotionValue = oneOf(
  term('item-price', { saving, closes: Joi.boolean() }),
  term('by-quantity', { from: text, applies: Joi.valid('all', 'above'), saving }),
  term('set', {
    parts: Joi.array().items(Joi.object({ count: Joi.number(), scope: what.allow(null) })),
    saving: oneOf(percentOff, amountOff, pricedAt, term('cheapest-free', { count: Joi.number() })),
  }),
  term('free-goods', {
    brackets: Joi.array().items(Joi.object({ from: Joi.number(), free: Joi.number() })),
    gift: Joi.alternatives(Joi.valid('same', 'bought'), Joi.object({ variant: id })),
    repeats: Joi.boolean(),
  }),
  term('order', {
    brackets: Joi.array().items(
      Joi.object({ from: money.allow(null), saving: oneOf(percentOff, amountOff) }),
    ),
  }),
  term('delivery', { saving: oneOf(percentOff, amountOff, pricedAt, term('free')) }),
  term('payment', {
    payment: Joi.valid(...PAYMENTS),
    saving: oneOf(percentOff, amountOff),
    isSurcharge: Joi.boolean(),
  }),
)
const of = Joi.valid('scope', 'cart')
const condition = oneOf(
  term('value', { from: money, of }),
  term('quantity', { from: text, of }),
  term('weight', { from: text, of }),
  term('orders', { from: Joi.number(), days: count }),
  term('spend', { from: money, days: count }),
  term('first-order'),
  term('payment', { payment: Joi.valid(...PAYMENTS) }),
  term('code', { code: text }),
)

const address = Joi.object({
  label: text,
  street: text,
  postcode: text,
  city: text,
  state: text,
  country: text,
})

export const RECORD_SCHEMAS: Readonly<Record<RecordKind, Joi.ObjectSchema>> = {
  settings: Joi.object({
    id: Joi.valid('settings'),
    name: text,
    currency: text,
    priceDigits: Joi.number().allow(null),
    timeZone: text,
    country: text,
    taxBasis,
    policy,
    neverAbovePublic: Joi.boolean(),
    comparedWith: Joi.valid('nothing', 'public', 'prior', 'base', 'recommended'),
    publishing: Joi.valid('as-you-go', 'by-draft', 'by-two'),
    taxPlace: Joi.valid('delivery', 'billing', 'store'),
    taxRounding: Joi.valid('line', 'document'),
    grossElsewhere: Joi.valid('keep-net', 'keep-gross'),
    taxTotals: Joi.valid('by-name', 'one'),
    taxClass: id.allow(null),
    deliveryTaxClass: id.allow(null),
    unionCountries: Joi.array().items(Joi.string()).unique(),
    taxRegistrations: stringMap,
    deliveryPrice: amount,
    deliveryFreeFrom: amount,
    quoteMargin: amount,
    quoteDays: Joi.number(),
    shopHeadline: text,
    shopColour: text,
    shopContact: text,
    shopEmail: text,
    netWords: text,
    grossWords: text,
  }),
  currency: Joi.object({
    id,
    code: text,
    fee: text,
    rounding,
    priceDigits: Joi.number().allow(null),
    ageLimit: Joi.number().allow(null),
    status,
  }),
  'exchange-rate': Joi.object({
    id,
    currency: id,
    per: id,
    rate: text,
    from: text,
    source: Joi.valid('manual', 'feed'),
  }),
  channel: Joi.object({
    id,
    code: text,
    name: text,
    groups: Joi.array().items(Joi.string()).unique(),
    gate: Joi.valid(...GATES),
    assortment,
    position,
    status,
  }),
  region: Joi.object({
    id,
    code: text,
    name: text,
    countries: Joi.array().items(Joi.string()).unique(),
    currency: id.allow(null),
    rounding,
    taxDisplay,
    cartTaxDisplay: taxDisplay,
    isDefault: Joi.boolean(),
    position,
    status,
  }),
  'tax-class': Joi.object({ id, code: text, name: text, position, status }),
  tax: Joi.object({ id, code: text, name: text, upon: ids, onDelivery: Joi.boolean(), position, status }),
  'tax-rate': Joi.object({
    id,
    tax: id,
    taxClass: id.allow(null),
    country: text,
    state: text,
    postcode: text,
    city: text,
    percent: text,
    from: text.allow(null),
    to: text.allow(null),
    reason: text,
  }),
  category: Joi.object({ id, code: text, name: text, parent: id.allow(null), position, status }),
  'price-family': Joi.object({ id, code: text, name: text, status }),
  product: Joi.object({
    id,
    code: text,
    name: text,
    description: text,
    picture: text,
    unit: text,
    categories: ids,
    attributes: stringMap,
    axes: Joi.array().items(Joi.string()).unique(),
    backOrder: Joi.boolean(),
    ...inherited,
  }),
  variant: Joi.object({
    id,
    sku: text,
    gtin: text.allow(null),
    product: id,
    options: stringMap,
    position,
    ...inherited,
  }),
  extra: Joi.object({
    id,
    code: text,
    name: text,
    scope: what,
    basePrice: amount,
    cost: amount,
    ownPrices: stringMap,
    position,
    status,
  }),
  group: Joi.object({
    id,
    code: text,
    name: text,
    trade: Joi.boolean(),
    taxDisplay: taxDisplay.allow(null),
    cartTaxDisplay: taxDisplay.allow(null),
    position,
    status,
  }),
  account: Joi.object({
    id,
    code: text,
    name: text,
    country: text,
    city: text,
    state: text,
    postcode: text,
    groups: ids,
    tags: Joi.array().items(Joi.string()).unique(),
    emails: Joi.array().items(text).unique(),
    people: Joi.array().items(
      Joi.object({ name: text, email: text, approves: Joi.boolean(), limit: amount }),
    ),
    addresses: Joi.array().items(address),
    currency: id.allow(null),
    taxNumber: text,
    exemption: text,
    exemptUntil: text.allow(null),
    paymentTerms: text,
    status,
  }),
  'price-list': Joi.object({
    id,
    code: text,
    name: text,
    purpose: Joi.valid(...PURPOSES),
    state,
    status,
    currency: id,
    taxBasis: taxBasis.allow(null),
    audience: who,
    scope: what,
    place: where,
    schedule: when,
    rank: Joi.number(),
    defaultLine: Joi.object(breaks).allow(null),
    rounding,
    onlyListed: Joi.boolean(),
  }),
  'price-line': Joi.object({
    id,
    list: id,
    position,
    scope: what,
    schedule: when.allow(null),
    ...breaks,
    rounding,
  }),
  contract: Joi.object({
    id,
    code: text,
    name: text,
    state: Joi.valid(...CONTRACT_STATES),
    accounts: ids,
    groups: ids,
    from: text.allow(null),
    to: text.allow(null),
    lists: ids,
    rank: Joi.number(),
    currency: id.allow(null),
    policy: policy.allow(null),
    minimumOrder: amount,
    assortment,
    paymentTerms: text,
    isProtected: Joi.boolean(),
  }),
  proof: Joi.object({
    id,
    code: text,
    name: text,
    state,
    status,
    claim: Joi.valid(...CLAIMS),
    value: amount,
    currency: amount,
    quantity: text,
    isBlocking: Joi.boolean(),
    reason: text,
    ...rule,
  }),
  adjustment: Joi.object({
    id,
    code: text,
    name: text,
    state,
    status,
    target: Joi.valid('base', 'shown'),
    method: oneOf(term('percent', { percent: text }), term('amount', { amount: text })),
    rounding,
    ...rule,
  }),
  limit: Joi.object({
    id,
    code: text,
    name: text,
    state,
    status,
    counting: Joi.valid('each', 'product', 'together'),
    ...quantityLimits,
    minimumValue: amount,
    maximumValue: amount,
    minimumWeight: amount,
    maximumWeight: amount,
    days: Joi.number().allow(null),
    message: text,
    ...rule,
  }),
  'access-rule': Joi.object({
    id,
    code: text,
    name: text,
    state,
    status,
    effect: Joi.valid(...EFFECTS),
    landing: Joi.valid('message', 'sign-in', 'contact'),
    message: text,
    ...rule,
  }),
  promotion: Joi.object({
    id,
    code: text,
    name: text,
    state,
    status,
    value: promotionValue,
    conditions: Joi.array().items(condition),
    combines: text,
    uses: Joi.object({ total: count, perBuyer: count, perOrder: count, perDay: count }),
    isOffer: Joi.boolean(),
    isAnnounced: Joi.boolean(),
    rounding,
    ...rule,
  }),
  passcode: Joi.object({
    id,
    code: text,
    name: text,
    word: text,
    channel: id.allow(null),
    from: text.allow(null),
    to: text.allow(null),
    isReview: Joi.boolean(),
    status,
  }),
}

/** What is wrong with the shape of a submitted record: the field and what was found there. */
export interface ShapeError {
  readonly field: string
  readonly value: string
  readonly expected: string
}

/** A record with more than this in one text, or deeper, is none. */
const LONGEST_TEXT = 10_000
const DEEPEST = 20
/** Whole numbers lie in the database in 32 bits. */
const LARGEST_NUMBER = 2 ** 31 - 1

/** Checks the shape of a submitted record; an empty list means it has the shape of its kind. */
export function checkShape(kind: RecordKind, draft: unknown): readonly ShapeError[] {
  const fault = findTextFault(draft, DEEPEST)
  if (fault)
    return [
      {
        field: fault.where || kind,
        value: fault.code,
        expected:
          fault.code === 'too-deep' ? `at most ${DEEPEST} levels` : 'text without nulls and broken pairs',
      },
    ]
  const { error } = BOUNDED_SCHEMAS[kind].validate(draft, {
    presence: 'required',
    convert: false,
    abortEarly: false,
  })
  return (error?.details ?? []).slice(0, MOST_REPORTED).map(({ path, message, context, type }) => {
    const field = path.join('.') || kind
    if (type !== 'object.unknown')
      return { field, value: shortened(JSON.stringify(context?.['value'])), expected: shortened(message) }
    const known = Object.keys(RECORD_SCHEMAS[kind].describe()['keys'] as object)
    const nearest = findNearest(String(path.at(-1)), known)
    return {
      field,
      value: shortened(JSON.stringify(context?.['value'])),
      expected: nearest ? `there is no such field; the nearest is ${nearest}` : 'there is no such field',
    }
  })
}

/** The most faults of one record that are reported at once. */
const MOST_REPORTED = 20

function shortened(text: string | undefined): string {
  if (text === undefined) return 'nothing'
  return text.length > 120 ? `${text.slice(0, 120)}…` : text
}

/** The same shapes, with bounds on what a text and a number may be. */
const BOUNDED_SCHEMAS = Object.fromEntries(
  Object.entries(RECORD_SCHEMAS).map(([kind, schema]) => [kind, bounded(schema)]),
) as typeof RECORD_SCHEMAS

function bounded(schema: Joi.ObjectSchema): Joi.ObjectSchema {
  return schema.custom((value: unknown, helpers) => {
    const wrong = findUnbounded(value)
    return wrong === null ? value : helpers.message({ custom: wrong })
  })
}

/** What is too long or too large in a record, and where; `null` when nothing is. */
function findUnbounded(value: unknown, where = ''): string | null {
  if (typeof value === 'string' && value.length > LONGEST_TEXT)
    return `"${where}" must be at most ${LONGEST_TEXT} characters long`
  if (typeof value === 'number' && !(Math.abs(value) <= LARGEST_NUMBER))
    return `"${where}" must be at most ${LARGEST_NUMBER}`
  if (value === null || typeof value !== 'object') return null
  for (const [field, inner] of Object.entries(value)) {
    const wrong = findUnbounded(inner, where === '' ? field : `${where}.${field}`)
    if (wrong !== null) return wrong
  }
  return null
}
