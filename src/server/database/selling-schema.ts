import type { MovementKind } from '@/core/catalogue/stock'
import type { OrderState } from '@/core/order/order-event'
import type { QuoteState } from '@/core/quote/quote-event'
import type { Choice } from '@/core/promotions/facts'
import type { Payment } from '@/core/promotions/promotion'
import { sql } from 'drizzle-orm'
import {
  bigserial,
  index,
  integer,
  jsonb,
  numeric,
  pgTable,
  primaryKey,
  text,
  timestamp,
} from 'drizzle-orm/pg-core'
import { bytes } from './bytes'

/** Who is in the shop: the cookie is a random word, of which only a digest is kept. */
export const shopSessions = pgTable('shop_session', {
  /** Digest of the word in the cookie. */
  id: text('id').primaryKey(),
  buyer: text('buyer').notNull(),
  deliverTo: text('deliver_to'),
  currency: text('currency'),
  /** Id of the passcode that was typed. */
  passcode: text('passcode'),
  cart: text('cart'),
  /** Code of the draft the merchant looks at the shop through; null for whoever buys. */
  draft: text('draft'),
  /** E-mail address of the person who signed in for an account. */
  person: text('person'),
  /** Id of whoever of the merchant's looks at the shop as a buyer; empty where nobody has to sign in; null for whoever buys. */
  looker: text('looker'),
  at: timestamp('at', { withTimezone: true }).notNull(),
})

/** What is in a visitor's cart; not a record of the store, and in no history. */
export const carts = pgTable('cart', {
  id: text('id').primaryKey(),
  lines: jsonb('lines').$type<readonly unknown[]>().notNull(),
  /** Codes of promotions, as they were typed. */
  codes: jsonb('codes').$type<readonly string[]>().notNull().default([]),
  /** What was said to offers, by the promotion's id. */
  choices: jsonb('choices').$type<Readonly<Record<string, Choice>>>().notNull().default({}),
  /** How the buyer will pay, once they have said. */
  payment: text('payment').$type<Payment>(),
  /** Wrong codes, and when the first of them was typed: they can only be tried so often. */
  wrongCodes: integer('wrong_codes').notNull().default(0),
  wrongSince: timestamp('wrong_since', { withTimezone: true, mode: 'date' }),
  at: timestamp('at', { withTimezone: true, mode: 'date' }).notNull(),
})

/** How many there are of each variant that was ever counted or ordered: what the movements come to. */
export const stockLevels = pgTable(
  'stock_level',
  {
    /** Id; the variant may be gone by now. */
    variant: text('variant').primaryKey(),
    /** `null` where nobody counts. */
    onHand: numeric('on_hand'),
    /** Promised to orders that have not been sent. */
    reserved: numeric('reserved').notNull(),
  },
  (table) => [
    index('stock_level_out')
      .on(table.variant)
      .where(sql`${table.onHand} <= ${table.reserved}`),
  ],
)

/** Whatever moved stock, in the order it happened. */
export const stockMovements = pgTable(
  'stock_movement',
  {
    id: bigserial('id', { mode: 'number' }).primaryKey(),
    variant: text('variant').notNull(),
    at: timestamp('at', { withTimezone: true, mode: 'date' }).notNull(),
    kind: text('kind').$type<MovementKind>().notNull(),
    /** On hand before and after; `null` where it is not counted. */
    before: numeric('before'),
    after: numeric('after'),
    /** By how much what is promised moved. */
    reserved: numeric('reserved').notNull(),
    /** The order it was for. */
    order: integer('order_number'),
    /** The change set it came with. */
    changeSet: integer('change_set'),
    author: text('author').notNull(),
    note: text('note').notNull(),
  },
  (table) => [
    index('stock_movement_variant').on(table.variant, table.id),
    index('stock_movement_at').on(table.at),
    index('stock_movement_order').on(table.order),
    index('stock_movement_change_set').on(table.changeSet),
  ],
)

/** Numbers without gaps or doubles: taken in the transaction that writes what has the number, so that whoever comes next waits. */
export const numberSeries = pgTable('number_series', {
  name: text('name')
    .$type<'order' | 'invoice' | 'credit-note' | 'delivery-note' | 'quote' | 'desk' | 'stock'>()
    .primaryKey(),
  next: integer('next').notNull(),
})

/** What was bought, at the figures of its moment. What stands beside the document is what lists are looked through by. */
export const orders = pgTable(
  'shop_order',
  {
    number: integer('number').primaryKey(),
    /** Id of the account; `null` for a guest. */
    account: text('account'),
    /** Whose cart it was, so that a guest finds it again. */
    visitor: text('visitor').notNull(),
    at: timestamp('at', { withTimezone: true, mode: 'date' }).notNull(),
    document: jsonb('document').notNull(),
    state: text('state').$type<OrderState>().notNull(),
    /** How many steps were taken: what a step must have seen to be taken. */
    version: integer('version').notNull(),
    /** What the buyer was called, in lower case. */
    buyer: text('buyer').notNull(),
    currency: text('currency').notNull(),
    /** With tax, after what was credited. */
    due: numeric('due').notNull(),
  },
  (table) => [
    index('shop_order_account').on(table.account, table.number),
    index('shop_order_state').on(table.state, table.number),
    index('shop_order_at').on(table.at),
  ],
)

/** What was done with an order, in its order. */
export const orderEvents = pgTable(
  'order_event',
  {
    order: integer('order_number')
      .notNull()
      .references(() => orders.number),
    version: integer('version').notNull(),
    event: jsonb('event').notNull(),
  },
  (table) => [primaryKey({ columns: [table.order, table.version] })],
)

/** What buyers asked a price for. What stands beside the request is what lists are looked through by. */
export const quotes = pgTable(
  'quote',
  {
    number: integer('number').primaryKey(),
    /** Id of the account; `null` for a guest. */
    account: text('account'),
    /** The window of a guest, so that they find it again. */
    visitor: text('visitor'),
    at: timestamp('at', { withTimezone: true, mode: 'date' }).notNull(),
    request: jsonb('request').notNull(),
    state: text('state').$type<QuoteState>().notNull(),
    /** How many steps were taken: what a step must have seen to be taken. */
    version: integer('version').notNull(),
    /** What the buyer was called, in lower case. */
    buyer: text('buyer').notNull(),
    currency: text('currency').notNull(),
    /** What the offer that stands comes to with tax; `null` before there is one. */
    total: numeric('total'),
    /** The last local date of the offer that stands. */
    until: text('until'),
    /** An offer that is being written, and how often it was kept. */
    working: jsonb('working'),
    workingVersion: integer('working_version').notNull().default(0),
  },
  (table) => [
    index('quote_account').on(table.account, table.number),
    index('quote_state').on(table.state, table.number),
  ],
)

/** What was done with a quote, in its order. */
export const quoteEvents = pgTable(
  'quote_event',
  {
    quote: integer('quote_number')
      .notNull()
      .references(() => quotes.number),
    version: integer('version').notNull(),
    event: jsonb('event').notNull(),
  },
  (table) => [primaryKey({ columns: [table.quote, table.version] })],
)

/** What a buyer sent along with a request for a quote. It belongs to whoever sent it until the request does, and is gone after a day. */
export const quoteFiles = pgTable(
  'quote_file',
  {
    id: text('id').primaryKey(),
    quote: integer('quote_number').references(() => quotes.number),
    /** Id of the account, or the window of a guest. */
    owner: text('owner').notNull(),
    at: timestamp('at', { withTimezone: true, mode: 'date' }).notNull(),
    name: text('name').notNull(),
    type: text('type').notNull(),
    /** In bytes. */
    size: integer('size').notNull(),
    content: bytes('content').notNull(),
  },
  (table) => [index('quote_file_quote').on(table.quote), index('quote_file_owner').on(table.owner, table.at)],
)

/** What promotions an order used, so that no limit of use is passed. */
export const promotionUses = pgTable(
  'promotion_use',
  {
    order: integer('order_number')
      .notNull()
      .references(() => orders.number),
    /** Id; the promotion may be gone by now. */
    promotion: text('promotion').notNull(),
    account: text('account'),
    visitor: text('visitor').notNull(),
    at: timestamp('at', { withTimezone: true, mode: 'date' }).notNull(),
    uses: integer('uses').notNull(),
  },
  (table) => [
    primaryKey({ columns: [table.order, table.promotion] }),
    index('promotion_use_promotion').on(table.promotion),
  ],
)

/** Mails that were written, and those still to be sent. */
export const mails = pgTable(
  'mail',
  {
    id: bigserial('id', { mode: 'number' }).primaryKey(),
    at: timestamp('at', { withTimezone: true, mode: 'date' }).notNull(),
    to: text('to_address').notNull(),
    /** Id of the account it is for; `null` for a guest, and for the merchant. */
    account: text('account'),
    /** What it is about: `order 10001`, `quote 1042`. */
    about: text('about').notNull(),
    /** What it says, as data: words are made of it when it is sent. */
    letter: jsonb('letter').notNull(),
    subject: text('subject').notNull().default(''),
    html: text('html'),
    plain: text('plain'),
    /** When it went out; `null` while it waits. */
    sent: timestamp('sent', { withTimezone: true, mode: 'date' }),
  },
  (table) => [index('mail_about').on(table.about), index('mail_sent').on(table.sent)],
)

/** What an account orders again and again, by name. */
export const reorderLists = pgTable(
  'reorder_list',
  {
    id: text('id').primaryKey(),
    account: text('account').notNull(),
    name: text('name').notNull(),
    /** E-mail address of whom it is for alone; `null` where colleagues share it. */
    person: text('person'),
    lines: jsonb('lines').notNull(),
    /** Who changed it last. */
    author: text('author').notNull(),
    at: timestamp('at', { withTimezone: true, mode: 'date' }).notNull(),
    version: integer('version').notNull(),
  },
  (table) => [index('reorder_list_account').on(table.account)],
)

/** Orders of people who may not order so much alone, until somebody of their account decides. */
export const orderRequests = pgTable(
  'order_request',
  {
    id: bigserial('id', { mode: 'number' }).primaryKey(),
    account: text('account').notNull(),
    /** E-mail address and name of who wants to order. */
    person: text('person').notNull(),
    name: text('name').notNull(),
    at: timestamp('at', { withTimezone: true, mode: 'date' }).notNull(),
    /** What is wanted, from where and how it is paid; what it came to then. */
    wanted: jsonb('wanted').notNull(),
    state: text('state').$type<'waiting' | 'ordered' | 'turned-down'>().notNull(),
    decidedBy: text('decided_by'),
    decidedAt: timestamp('decided_at', { withTimezone: true, mode: 'date' }),
    reason: text('reason').notNull().default(''),
    order: integer('order_number'),
  },
  (table) => [index('order_request_account').on(table.account, table.id)],
)

/** Orders that staff write down for a buyer: nothing of them counts before they are placed. */
export const deskOrders = pgTable(
  'desk_order',
  {
    number: integer('number').primaryKey(),
    at: timestamp('at', { withTimezone: true, mode: 'date' }).notNull(),
    author: text('author').notNull(),
    state: text('state').$type<'open' | 'held' | 'placed' | 'quoted' | 'discarded'>().notNull(),
    /** What was written down. */
    order: jsonb('content').notNull(),
    /** How often it was saved: who saves says which they saw. */
    version: integer('version').notNull(),
    /** Number of the order or quote it became. */
    became: integer('became'),
  },
  (table) => [index('desk_order_state').on(table.state, table.number)],
)
