import type { Condition, PromotionValue, UseLimits } from '@/core/promotions/promotion'
import type { AccessEffect, Gate, Landing } from '@/core/access/access'
import type { Assortment } from '@/core/access/assortment'
import type { AllowedQuantity, QuantityLimits } from '@/core/limits/limit'
import type { TaxDisplay } from '@/core/places/place'
import type { Who } from '@/core/predicates/who'
import type { What } from '@/core/predicates/what'
import type { Address, Person } from '@/core/buyers/buyer'
import type { OwnAmounts } from '@/core/catalogue/product'
import type { Status } from '@/core/issue/issue'
import type { Settings } from '@/core/store/store'
import type { Schedule } from '@/core/predicates/when'
import type { Where } from '@/core/predicates/where'
import type { AdjustmentMethod } from '@/core/price/adjustment'
import type { ContractState, LadderPolicy } from '@/core/price/contract'
import type { BreakCounting, BreakPricing, Breaks, QuantityBreak } from '@/core/price/lines/price-method'
import type { TaxBasis } from '@/core/price/based-amount'
import type { Purpose } from '@/core/price/lines/price-list'
import type { ClaimKind } from '@/core/proofs/proof'
import type { RoundingRule } from '@/core/decimal/rounding'
import type { DecimalMark } from '@/core/decimal/written-amount'
import type { ImportTarget, Matching } from '../imports/import-field'
import type { ImportState } from '../imports/import-progress'
import { type SQL, sql } from 'drizzle-orm'
import {
  boolean,
  check,
  index,
  integer,
  jsonb,
  numeric,
  pgTable,
  primaryKey,
  text,
  timestamp,
  uniqueIndex,
  type AnyPgColumn,
} from 'drizzle-orm/pg-core'
import { bytes } from './bytes'

/** The change set that last wrote a record: what an edit must have seen to be accepted. */
const revision = () => integer('revision').notNull()

const status = () => text('status').$type<Status>().notNull()
const state = () => text('state').$type<'on' | 'off'>().notNull()
const rounding = () => jsonb('rounding').$type<RoundingRule>()
const codeIndex = (name: string, code: AnyPgColumn) => uniqueIndex(name).on(sql`lower(${code})`)

const inheritedValues = () => ({
  basePrice: numeric('base_price'),
  cost: numeric('cost'),
  recommendedPrice: numeric('recommended_price'),
  floor: numeric('floor'),
  ownAmounts: jsonb('own_amounts').$type<OwnAmounts>().notNull(),
  weight: numeric('weight'),
  taxClass: text('tax_class').references(() => taxClasses.id),
  content: text('content'),
  limits: jsonb('limits').$type<QuantityLimits>().notNull(),
})

export const settings = pgTable('settings', {
  id: text('id').primaryKey(),
  name: text('name').notNull(),
  currency: text('currency').notNull(),
  priceDigits: integer('price_digits').notNull(),
  timeZone: text('time_zone').notNull(),
  country: text('country').notNull(),
  taxBasis: text('tax_basis').$type<'net' | 'gross'>().notNull(),
  policy: text('policy').$type<LadderPolicy>().notNull(),
  neverAbovePublic: boolean('never_above_public').notNull(),
  comparedWith: text('compared_with').$type<Settings['comparedWith']>().notNull(),
  publishing: text('publishing').$type<Settings['publishing']>().notNull().default('as-you-go'),
  taxPlace: text('tax_place').$type<'delivery' | 'billing' | 'store'>().notNull(),
  taxRounding: text('tax_rounding').$type<'line' | 'document'>().notNull(),
  grossElsewhere: text('gross_elsewhere').$type<'keep-net' | 'keep-gross'>().notNull(),
  taxTotals: text('tax_totals').$type<'by-name' | 'one'>().notNull(),
  taxClass: text('tax_class'),
  deliveryTaxClass: text('delivery_tax_class'),
  unionCountries: jsonb('union_countries').$type<readonly string[]>().notNull(),
  taxRegistrations: jsonb('tax_registrations').$type<Readonly<Record<string, string>>>().notNull(),
  deliveryPrice: numeric('delivery_price'),
  deliveryFreeFrom: numeric('delivery_free_from'),
  quoteMargin: numeric('quote_margin'),
  quoteDays: integer('quote_days').notNull().default(14),
  shopHeadline: text('shop_headline').notNull().default(''),
  shopColour: text('shop_colour').notNull().default(''),
  shopContact: text('shop_contact').notNull().default(''),
  shopEmail: text('shop_email').notNull().default(''),
  netWords: text('net_words').notNull().default(''),
  grossWords: text('gross_words').notNull().default(''),
  revision: revision(),
})

export const currencies = pgTable('currency', {
  id: text('id').primaryKey(),
  code: text('code').notNull(),
  fee: numeric('fee').notNull(),
  rounding: rounding(),
  priceDigits: integer('price_digits').notNull(),
  ageLimit: integer('age_limit'),
  status: status(),
  revision: revision(),
})

export const exchangeRates = pgTable(
  'exchange_rate',
  {
    id: text('id').primaryKey(),
    currency: text('currency')
      .notNull()
      .references(() => currencies.id),
    per: text('per').notNull(),
    rate: numeric('rate').notNull(),
    from: text('valid_from').notNull(),
    source: text('source').$type<'manual' | 'feed'>().notNull(),
    revision: revision(),
  },
  (table) => [check('exchange_rate_rate', sql`${table.rate} > 0`)],
)

export const channels = pgTable(
  'channel',
  {
    id: text('id').primaryKey(),
    code: text('code').notNull(),
    name: text('name').notNull(),
    groups: jsonb('groups').$type<readonly string[]>().notNull(),
    gate: text('gate').$type<Gate>().notNull(),
    assortment: jsonb('assortment').$type<Assortment>(),
    position: integer('position').notNull(),
    status: status(),
    revision: revision(),
  },
  (table) => [codeIndex('channel_code', table.code)],
)

export const regions = pgTable(
  'region',
  {
    id: text('id').primaryKey(),
    code: text('code').notNull(),
    name: text('name').notNull(),
    countries: jsonb('countries').$type<readonly string[]>().notNull(),
    currency: text('currency'),
    rounding: rounding(),
    taxDisplay: text('tax_display').$type<TaxDisplay>().notNull(),
    cartTaxDisplay: text('cart_tax_display').$type<TaxDisplay>().notNull(),
    isDefault: boolean('is_default').notNull(),
    position: integer('position').notNull(),
    status: status(),
    revision: revision(),
  },
  (table) => [codeIndex('region_code', table.code)],
)

export const taxClasses = pgTable(
  'tax_class',
  {
    id: text('id').primaryKey(),
    code: text('code').notNull(),
    name: text('name').notNull(),
    position: integer('position').notNull(),
    status: status(),
    revision: revision(),
  },
  (table) => [codeIndex('tax_class_code', table.code)],
)

export const taxes = pgTable(
  'tax',
  {
    id: text('id').primaryKey(),
    code: text('code').notNull(),
    name: text('name').notNull(),
    upon: jsonb('upon').$type<readonly string[]>().notNull(),
    onDelivery: boolean('on_delivery').notNull(),
    position: integer('position').notNull(),
    status: status(),
    revision: revision(),
  },
  (table) => [codeIndex('tax_code', table.code)],
)

export const taxRates = pgTable('tax_rate', {
  id: text('id').primaryKey(),
  tax: text('tax')
    .notNull()
    .references(() => taxes.id),
  taxClass: text('tax_class').references(() => taxClasses.id),
  country: text('country').notNull(),
  state: text('state').notNull(),
  postcode: text('postcode').notNull(),
  city: text('city').notNull(),
  percent: numeric('percent').notNull(),
  from: text('valid_from'),
  to: text('valid_to'),
  reason: text('reason').notNull(),
  revision: revision(),
})

export const priceFamilies = pgTable(
  'price_family',
  {
    id: text('id').primaryKey(),
    code: text('code').notNull(),
    name: text('name').notNull(),
    status: status(),
    revision: revision(),
  },
  (table) => [codeIndex('price_family_code', table.code)],
)

export const categories = pgTable(
  'category',
  {
    id: text('id').primaryKey(),
    code: text('code').notNull(),
    name: text('name').notNull(),
    parent: text('parent').references((): AnyPgColumn => categories.id),
    position: integer('position').notNull(),
    status: status(),
    revision: revision(),
  },
  (table) => [codeIndex('category_code', table.code)],
)

export const products = pgTable(
  'product',
  {
    id: text('id').primaryKey(),
    code: text('code').notNull(),
    name: text('name').notNull(),
    description: text('description').notNull(),
    picture: text('picture').notNull(),
    unit: text('unit').notNull(),
    status: status(),
    family: text('family').references(() => priceFamilies.id),
    attributes: jsonb('attributes').$type<Record<string, string>>().notNull(),
    axes: jsonb('axes').$type<string[]>().notNull(),
    backOrder: boolean('back_order').notNull(),
    ...inheritedValues(),
    revision: revision(),
  },
  (table) => [
    codeIndex('product_code', table.code),
    check('product_base_price', sql`${table.basePrice} > 0`),
    check('product_cost', sql`${table.cost} >= 0`),
  ],
)

export const productCategories = pgTable(
  'product_category',
  {
    product: text('product')
      .notNull()
      .references(() => products.id, { onDelete: 'cascade' }),
    category: text('category')
      .notNull()
      .references(() => categories.id),
    position: integer('position').notNull(),
  },
  (table) => [primaryKey({ columns: [table.product, table.category] })],
)

export const variants = pgTable(
  'variant',
  {
    id: text('id').primaryKey(),
    sku: text('sku').notNull(),
    gtin: text('gtin'),
    product: text('product')
      .notNull()
      .references(() => products.id),
    options: jsonb('options').$type<Record<string, string>>().notNull(),
    position: integer('position').notNull(),
    status: status(),
    family: text('family').references(() => priceFamilies.id),
    ...inheritedValues(),
    revision: revision(),
  },
  (table) => [
    codeIndex('variant_sku', table.sku),
    // Taking a product away looks for its variants.
    index('variant_product').on(table.product),
    check('variant_base_price', sql`${table.basePrice} > 0`),
    check('variant_cost', sql`${table.cost} >= 0`),
  ],
)

export const customerGroups = pgTable(
  'customer_group',
  {
    id: text('id').primaryKey(),
    code: text('code').notNull(),
    name: text('name').notNull(),
    trade: boolean('trade').notNull(),
    taxDisplay: text('tax_display').$type<TaxDisplay>(),
    cartTaxDisplay: text('cart_tax_display').$type<TaxDisplay>(),
    position: integer('position').notNull(),
    status: status(),
    revision: revision(),
  },
  (table) => [codeIndex('customer_group_code', table.code)],
)

export const accounts = pgTable(
  'account',
  {
    id: text('id').primaryKey(),
    code: text('code').notNull(),
    name: text('name').notNull(),
    country: text('country').notNull(),
    city: text('city').notNull(),
    state: text('state').notNull(),
    postcode: text('postcode').notNull(),
    tags: jsonb('tags').$type<string[]>().notNull(),
    emails: jsonb('emails').$type<string[]>().notNull(),
    people: jsonb('people').$type<readonly Person[]>().notNull().default([]),
    addresses: jsonb('addresses').$type<readonly Address[]>().notNull(),
    currency: text('currency'),
    taxNumber: text('tax_number').notNull(),
    exemption: text('exemption').notNull(),
    exemptUntil: text('exempt_until'),
    paymentTerms: text('payment_terms').notNull(),
    status: status(),
    revision: revision(),
  },
  (table) => [codeIndex('account_code', table.code)],
)

export const accountGroups = pgTable(
  'account_group',
  {
    account: text('account')
      .notNull()
      .references(() => accounts.id, { onDelete: 'cascade' }),
    group: text('customer_group')
      .notNull()
      .references(() => customerGroups.id),
    position: integer('position').notNull(),
  },
  (table) => [primaryKey({ columns: [table.account, table.group] })],
)

export const extras = pgTable(
  'extra',
  {
    id: text('id').primaryKey(),
    code: text('code').notNull(),
    name: text('name').notNull(),
    scope: jsonb('scope').$type<What>().notNull(),
    basePrice: numeric('base_price'),
    cost: numeric('cost'),
    ownPrices: jsonb('own_prices').$type<Readonly<Record<string, string>>>().notNull(),
    position: integer('position').notNull(),
    status: status(),
    revision: revision(),
  },
  (table) => [codeIndex('extra_code', table.code)],
)

export const priceLists = pgTable(
  'price_list',
  {
    id: text('id').primaryKey(),
    code: text('code').notNull(),
    name: text('name').notNull(),
    purpose: text('purpose').$type<Purpose>().notNull(),
    state: state(),
    status: status(),
    currency: text('currency').notNull(),
    taxBasis: text('tax_basis').$type<TaxBasis>(),
    audience: jsonb('audience').$type<Who>().notNull(),
    scope: jsonb('scope').$type<What>().notNull(),
    place: jsonb('place').$type<Where>().notNull(),
    schedule: jsonb('schedule').$type<Schedule>().notNull(),
    rank: integer('rank').notNull(),
    defaultLine: jsonb('default_line').$type<Breaks>(),
    rounding: rounding(),
    onlyListed: boolean('only_listed').notNull(),
    revision: revision(),
  },
  (table) => [codeIndex('price_list_code', table.code), check('price_list_rank', sql`${table.rank} >= 1`)],
)

export const priceLines = pgTable(
  'price_line',
  {
    id: text('id').primaryKey(),
    list: text('list')
      .notNull()
      .references(() => priceLists.id),
    position: integer('position').notNull(),
    scope: jsonb('scope').$type<What>().notNull(),
    schedule: jsonb('schedule').$type<Schedule>(),
    breaks: jsonb('breaks').$type<readonly QuantityBreak[]>().notNull(),
    counting: text('counting').$type<BreakCounting>().notNull(),
    pricing: text('pricing').$type<BreakPricing>().notNull(),
    rounding: rounding(),
    revision: revision(),
  },
  (table) => [index('price_line_list').on(table.list)],
)

export const contracts = pgTable(
  'contract',
  {
    id: text('id').primaryKey(),
    code: text('code').notNull(),
    name: text('name').notNull(),
    state: text('state').$type<ContractState>().notNull(),
    accounts: jsonb('accounts').$type<readonly string[]>().notNull(),
    groups: jsonb('groups').$type<readonly string[]>().notNull(),
    from: text('valid_from'),
    to: text('valid_to'),
    lists: jsonb('lists').$type<readonly string[]>().notNull(),
    rank: integer('rank').notNull(),
    currency: text('currency'),
    policy: text('policy').$type<LadderPolicy>(),
    minimumOrder: numeric('minimum_order'),
    assortment: jsonb('assortment').$type<Assortment>(),
    paymentTerms: text('payment_terms').notNull(),
    isProtected: boolean('is_protected').notNull(),
    revision: revision(),
  },
  (table) => [codeIndex('contract_code', table.code)],
)

/** What every rule has, as `Rule` in the core says it. */
function ruleColumns() {
  return {
    id: text('id').primaryKey(),
    code: text('code').notNull(),
    name: text('name').notNull(),
    state: state(),
    status: status(),
    rank: integer('rank').notNull(),
    audience: jsonb('audience').$type<Who>().notNull(),
    scope: jsonb('scope').$type<What>().notNull(),
    place: jsonb('place').$type<Where>().notNull(),
    schedule: jsonb('schedule').$type<Schedule>().notNull(),
    revision: revision(),
  }
}

export const adjustments = pgTable(
  'adjustment',
  {
    ...ruleColumns(),
    target: text('target').$type<'base' | 'shown'>().notNull(),
    method: jsonb('method').$type<AdjustmentMethod>().notNull(),
    rounding: rounding(),
  },
  (table) => [codeIndex('adjustment_code', table.code)],
)

export const promotions = pgTable(
  'promotion',
  {
    ...ruleColumns(),
    value: jsonb('value').$type<PromotionValue>().notNull(),
    conditions: jsonb('conditions').$type<readonly Condition[]>().notNull(),
    combines: text('combines').notNull(),
    uses: jsonb('uses').$type<UseLimits>().notNull(),
    isOffer: boolean('is_offer').notNull(),
    isAnnounced: boolean('is_announced').notNull(),
    rounding: rounding(),
  },
  (table) => [codeIndex('promotion_code', table.code)],
)

export const proofs = pgTable(
  'proof',
  {
    ...ruleColumns(),
    claim: text('claim').$type<ClaimKind>().notNull(),
    value: numeric('value'),
    currency: text('currency'),
    quantity: numeric('quantity').notNull(),
    isBlocking: boolean('is_blocking').notNull(),
    reason: text('reason').notNull(),
  },
  (table) => [codeIndex('proof_code', table.code)],
)

/** What the nightly run found of a proof, where it was another thing than the night before. */
export const proofRuns = pgTable(
  'proof_run',
  {
    /** Id; the proof may be gone by now. */
    proof: text('proof').notNull(),
    at: timestamp('at', { withTimezone: true, mode: 'date' }).notNull(),
    state: text('state').$type<'holds' | 'broken' | 'idle' | 'empty'>().notNull(),
    checked: integer('checked').notNull(),
    held: integer('held').notNull(),
  },
  (table) => [primaryKey({ columns: [table.proof, table.at] })],
)

/** Findings nobody wants to hear of for a while. */
export const findingMutes = pgTable('finding_mute', {
  /** What the finding is kept under. */
  key: text('key').primaryKey(),
  author: text('author').notNull(),
  at: timestamp('at', { withTimezone: true, mode: 'date' }).notNull(),
  /** From when on it is told of again; null is never. */
  until: timestamp('until', { withTimezone: true, mode: 'date' }),
  reason: text('reason').notNull(),
})

export const limits = pgTable(
  'limit_rule',
  {
    ...ruleColumns(),
    counting: text('counting').$type<'each' | 'product' | 'together'>().notNull(),
    minimum: numeric('minimum'),
    maximum: numeric('maximum'),
    multiple: numeric('multiple'),
    first: numeric('first_value'),
    values: jsonb('allowed_values').$type<readonly AllowedQuantity[]>(),
    minimumValue: numeric('minimum_value'),
    maximumValue: numeric('maximum_value'),
    minimumWeight: numeric('minimum_weight'),
    maximumWeight: numeric('maximum_weight'),
    days: integer('days'),
    message: text('message').notNull().default(''),
  },
  (table) => [codeIndex('limit_rule_code', table.code)],
)

export const accessRules = pgTable(
  'access_rule',
  {
    ...ruleColumns(),
    effect: text('effect').$type<AccessEffect>().notNull(),
    landing: text('landing').$type<Landing>().notNull(),
    message: text('message').notNull(),
  },
  (table) => [codeIndex('access_rule_code', table.code)],
)

export const passcodes = pgTable(
  'passcode',
  {
    id: text('id').primaryKey(),
    code: text('code').notNull(),
    name: text('name').notNull(),
    word: text('word').notNull(),
    channel: text('channel').references(() => channels.id),
    from: text('valid_from'),
    to: text('valid_to'),
    isReview: boolean('is_review').notNull(),
    status: status(),
    revision: revision(),
  },
  (table) => [codeIndex('passcode_code', table.code)],
)

export const changeSets = pgTable('change_set', {
  id: integer('id').primaryKey(),
  at: timestamp('at', { withTimezone: true, mode: 'date' }).notNull(),
  author: text('author').notNull(),
  note: text('note').notNull(),
  /** The change set this one undoes. */
  undoes: integer('undoes').references((): AnyPgColumn => changeSets.id),
  /** Still being written in slices. It does not count yet, and is undone if the server stops now. */
  isUnfinished: boolean('is_unfinished').notNull().default(false),
})

type ChangedColumns = Record<'before' | 'after', AnyPgColumn>

/** The record a changed part belongs to, exactly as the indexes of `change` have it. */
export function ownerIn({ before, after }: ChangedColumns, field: 'list' | 'product' | 'currency'): SQL {
  return sql`(coalesce(${after}, ${before}) ->> ${sql.raw(`'${field}'`)})`
}

/** The code or SKU a change took from a record, in lower case; null where it kept it. */
export function formerCode({ before, after }: { readonly before: AnyPgColumn; readonly after: AnyPgColumn }) {
  const codeIn = (column: AnyPgColumn) => sql`lower(coalesce(${column}->>'code', ${column}->>'sku'))`
  return sql`(nullif(${codeIn(before)}, ${codeIn(after)}))`
}

export const changes = pgTable(
  'change',
  {
    changeSet: integer('change_set')
      .notNull()
      .references(() => changeSets.id),
    position: integer('position').notNull(),
    kind: text('kind').notNull(),
    record: text('record').notNull(),
    before: jsonb('before'),
    after: jsonb('after'),
  },
  (table) => [
    primaryKey({ columns: [table.changeSet, table.position] }),
    index('change_record').on(table.kind, table.record),
    // The history of a sheet is that of its parts, too: among a million changed lines those of one list.
    index('change_line_list')
      .on(ownerIn(table, 'list'))
      .where(sql`${table.kind} = 'price-line'`),
    index('change_variant_product')
      .on(ownerIn(table, 'product'))
      .where(sql`${table.kind} = 'variant'`),
    // Where a link to a code leads that was renamed since.
    index('change_former_code')
      .on(table.kind, formerCode(table))
      .where(sql`${formerCode(table)} is not null`),
    index('change_rate_currency')
      .on(ownerIn(table, 'currency'))
      .where(sql`${table.kind} = 'exchange-rate'`),
  ],
)

/** Numbers of what is changed in drafts begin far above those of live, so that one number says where it was changed, too. */
export const FIRST_DRAFT_CHANGE_SET = 1_000_000_001

/** A named set of changes laid over what is live. */
export const drafts = pgTable(
  'draft',
  {
    id: integer('id').primaryKey().generatedAlwaysAsIdentity(),
    code: text('code').notNull(),
    name: text('name').notNull(),
    author: text('author').notNull(),
    at: timestamp('at', { withTimezone: true, mode: 'date' }).notNull(),
    state: text('state').$type<'open' | 'published' | 'discarded'>().notNull().default('open'),
    /** When it is to be published by itself; null for one that nobody has planned. */
    publishAt: timestamp('publish_at', { withTimezone: true, mode: 'date' }),
    /** Who planned it, and why. */
    publishAuthor: text('publish_author').notNull().default(''),
    reason: text('reason').notNull().default(''),
    /** Why it was not published when it was to be; null where nothing went wrong. */
    failure: text('failure'),
    /** What it became live as. */
    changeSet: integer('change_set').references(() => changeSets.id),
  },
  (table) => [
    // One that has ended leaves its code to the next of the name.
    uniqueIndex('draft_code')
      .on(sql`lower(${table.code})`)
      .where(sql`${table.state} = 'open'`),
  ],
)

export const draftChangeSets = pgTable(
  'draft_change_set',
  {
    id: integer('id').primaryKey().generatedAlwaysAsIdentity({ startWith: FIRST_DRAFT_CHANGE_SET }),
    draft: integer('draft')
      .notNull()
      .references(() => drafts.id),
    at: timestamp('at', { withTimezone: true, mode: 'date' }).notNull(),
    author: text('author').notNull(),
    note: text('note').notNull(),
    /** Still being written in slices: it does not count yet. */
    isUnfinished: boolean('is_unfinished').notNull().default(false),
  },
  (table) => [index('draft_change_set_draft').on(table.draft)],
)

/** What was edited in a draft, never rewritten: of each record the last one that counts says what the draft does to it. */
export const draftChanges = pgTable(
  'draft_change',
  {
    changeSet: integer('change_set')
      .notNull()
      .references(() => draftChangeSets.id),
    position: integer('position').notNull(),
    draft: integer('draft')
      .notNull()
      .references(() => drafts.id),
    kind: text('kind').notNull(),
    record: text('record').notNull(),
    /** What the draft showed of the record before the edit, and after it. */
    before: jsonb('before'),
    after: jsonb('after'),
    /** What was live when the draft last had a say about each of its fields. */
    base: jsonb('base'),
    /** The draft says nothing of the record any more. */
    isOut: boolean('is_out').notNull(),
  },
  (table) => [
    primaryKey({ columns: [table.changeSet, table.position] }),
    index('draft_change_record').on(table.draft, table.kind, table.record, table.changeSet),
  ],
)

/** A file on its way into the store, as far as it has come: enough to go on with it when the server starts again. */
export const imports = pgTable('import', {
  id: text('id').primaryKey(),
  at: timestamp('at', { withTimezone: true, mode: 'date' }).notNull(),
  fileName: text('file_name').notNull(),
  content: bytes('content').notNull(),
  target: jsonb('target').$type<ImportTarget>().notNull(),
  matching: jsonb('matching').$type<Matching>().notNull(),
  mark: text('mark').$type<DecimalMark>().notNull(),
  /** Numbers of rows, as a spreadsheet counts them. */
  leftOut: jsonb('left_out').$type<readonly number[]>().notNull(),
  step: text('step').$type<'matching' | 'preview' | 'writing' | 'done'>().notNull(),
  /** Who had it written. */
  author: text('author'),
  /** What it was written as, and how many rows that were. */
  changeSet: integer('change_set').references(() => changeSets.id),
  rows: integer('rows'),
  /** How far whichever process works on it has come. */
  state: jsonb('state').$type<ImportState>(),
  /** Rises with whatever is written of it, so that others see that they know an older one. */
  version: integer('version').notNull().default(0),
  /** Somebody wants what is being done to end. */
  isCancelled: boolean('is_cancelled').notNull().default(false),
})
