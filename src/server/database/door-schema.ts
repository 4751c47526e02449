import type { Decimal } from '@/core/decimal/decimal'
import type { KeyScope } from '@/core/staff/key-scope'
import { bigserial, index, integer, jsonb, pgTable, text, timestamp } from 'drizzle-orm/pg-core'

const moment = (name: string) => timestamp(name, { withTimezone: true, mode: 'date' })

/** Wrong tries, by what was tried and from where; gone after a good one, or when they are old. */
export const doorTries = pgTable('door_try', {
  /** Such as `staff nora@example.org`, `address 203.0.113.7`. */
  key: text('key').primaryKey(),
  count: integer('count').notNull(),
  since: moment('since').notNull(),
})

/** Words this installation keeps to itself: what cookies are signed with, the digest of the owner's first code. */
export const secrets = pgTable('secret', {
  name: text('name').primaryKey(),
  value: text('value').notNull(),
  at: moment('at').notNull(),
})

/** What happened at the doors, never changed. */
export const auditEvents = pgTable(
  'audit_event',
  {
    id: bigserial('id', { mode: 'number' }).primaryKey(),
    at: moment('at').notNull(),
    kind: text('kind').notNull(),
    /** Who did it, as they were called then; empty for nobody known. */
    who: text('who').notNull(),
    /** What of: a person, a role, a draft, a file. */
    about: text('about').notNull(),
    detail: text('detail').notNull(),
    /** Where from. */
    address: text('address').notNull(),
  },
  (table) => [index('audit_event_at').on(table.at)],
)

/** Passwords of people who buy for an account, by their e-mail address in lower case: digests (argon2id). */
export const buyerPasswords = pgTable('buyer_password', {
  email: text('email').primaryKey(),
  digest: text('digest').notNull(),
  at: moment('at').notNull(),
})

/** Links that were mailed to buyers and let them in once. */
export const buyerLinks = pgTable('buyer_link', {
  /** Digest of the word in the link. */
  id: text('id').primaryKey(),
  email: text('email').notNull(),
  /** Where it leads. */
  back: text('back').notNull(),
  expiresAt: moment('expires_at').notNull(),
})

/** What programs come in with. */
export const apiKeys = pgTable('api_key', {
  id: text('id').primaryKey(),
  name: text('name').notNull(),
  /** How the key begins, to tell it by. */
  start: text('start').notNull(),
  digest: text('digest').notNull().unique(),
  scopes: jsonb('scopes').$type<readonly KeyScope[]>().notNull(),
  /** Requests a minute. */
  perMinute: integer('per_minute').notNull(),
  madeBy: text('made_by').notNull(),
  madeAt: moment('made_at').notNull(),
  /** `null` never. */
  expiresAt: moment('expires_at'),
  revokedAt: moment('revoked_at'),
  lastUsed: moment('last_used_at'),
  /** Requests of the minute that began at `minute`. */
  minute: moment('minute_at'),
  used: integer('used_in_minute').notNull().default(0),
})

/** What a service of rates has published, a row a day. */
export const ratePublications = pgTable('rate_publication', {
  /** ISO 8601 date. */
  day: text('day').primaryKey(),
  per: text('per').notNull(),
  /** By ISO 4217 code. */
  rates: jsonb('rates').$type<Readonly<Record<string, Decimal>>>().notNull(),
  /** Currencies whose rate of that day somebody has said no to. */
  declined: jsonb('declined').$type<readonly string[]>().notNull(),
  readAt: moment('read_at').notNull(),
})

/** How the service of rates was found when it was asked last: one row. */
export const rateService = pgTable('rate_service', {
  id: integer('id').primaryKey(),
  triedAt: moment('tried_at').notNull(),
  /** Empty when all was well. */
  problem: text('problem').notNull(),
})
