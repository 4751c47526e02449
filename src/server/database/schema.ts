import type { WhoTerm } from '@/core/predicates/who'
import type { What } from '@/core/predicates/what'
import type { PriceMethod, Purpose } from '@/core/price/price-list'
import type { RoundingRule } from '@/core/decimal/rounding'
import { sql } from 'drizzle-orm'
import {
  type AnyPgColumn,
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
} from 'drizzle-orm/pg-core'

/** The change set that last wrote a record: what an edit must have seen to be accepted. */
const revision = () => integer('revision').notNull()

const inheritedValues = () => ({
  basePrice: numeric('base_price'),
  cost: numeric('cost'),
  recommendedPrice: numeric('recommended_price'),
  weight: numeric('weight'),
})

export const settings = pgTable('settings', {
  id: text('id').primaryKey(),
  name: text('name').notNull(),
  currency: text('currency').notNull(),
  priceDigits: integer('price_digits').notNull(),
  timeZone: text('time_zone').notNull(),
  country: text('country').notNull(),
  revision: revision(),
})

export const categories = pgTable(
  'category',
  {
    id: text('id').primaryKey(),
    code: text('code').notNull(),
    name: text('name').notNull(),
    parent: text('parent').references((): AnyPgColumn => categories.id),
    position: integer('position').notNull(),
    revision: revision(),
  },
  (table) => [uniqueIndex('category_code').on(sql`lower(${table.code})`)],
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
    status: text('status').$type<'active' | 'archived'>().notNull(),
    attributes: jsonb('attributes').$type<Record<string, string>>().notNull(),
    axes: jsonb('axes').$type<string[]>().notNull(),
    ...inheritedValues(),
    revision: revision(),
  },
  (table) => [
    uniqueIndex('product_code').on(sql`lower(${table.code})`),
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
    product: text('product')
      .notNull()
      .references(() => products.id),
    options: jsonb('options').$type<Record<string, string>>().notNull(),
    position: integer('position').notNull(),
    ...inheritedValues(),
    revision: revision(),
  },
  (table) => [
    uniqueIndex('variant_sku').on(sql`lower(${table.sku})`),
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
    position: integer('position').notNull(),
    revision: revision(),
  },
  (table) => [uniqueIndex('customer_group_code').on(sql`lower(${table.code})`)],
)

export const accounts = pgTable(
  'account',
  {
    id: text('id').primaryKey(),
    code: text('code').notNull(),
    name: text('name').notNull(),
    country: text('country').notNull(),
    city: text('city').notNull(),
    tags: jsonb('tags').$type<string[]>().notNull(),
    emails: jsonb('emails').$type<string[]>().notNull(),
    revision: revision(),
  },
  (table) => [uniqueIndex('account_code').on(sql`lower(${table.code})`)],
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

export const priceLists = pgTable(
  'price_list',
  {
    id: text('id').primaryKey(),
    code: text('code').notNull(),
    name: text('name').notNull(),
    purpose: text('purpose').$type<Purpose>().notNull(),
    state: text('state').$type<'on' | 'off'>().notNull(),
    audience: jsonb('audience').$type<{ include: WhoTerm[]; exclude: WhoTerm[] }>().notNull(),
    rank: integer('rank').notNull(),
    defaultLine: jsonb('default_line').$type<PriceMethod>(),
    rounding: jsonb('rounding').$type<RoundingRule>(),
    revision: revision(),
  },
  (table) => [
    uniqueIndex('price_list_code').on(sql`lower(${table.code})`),
    check('price_list_rank', sql`${table.rank} >= 1`),
    check('price_list_audience', sql`jsonb_array_length(${table.audience} -> 'include') > 0`),
  ],
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
    method: jsonb('method').$type<PriceMethod>().notNull(),
    rounding: jsonb('rounding').$type<RoundingRule>(),
    revision: revision(),
  },
  (table) => [index('price_line_list').on(table.list)],
)

export const changeSets = pgTable('change_set', {
  id: integer('id').primaryKey(),
  at: timestamp('at', { withTimezone: true, mode: 'date' }).notNull(),
  author: text('author').notNull(),
  note: text('note').notNull(),
  /** The change set this one takes back. */
  undoes: integer('undoes').references((): AnyPgColumn => changeSets.id),
})

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
  ],
)
