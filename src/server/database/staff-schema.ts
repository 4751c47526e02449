import type { What } from '@/core/predicates/what'
import type { Who } from '@/core/predicates/who'
import type { Permission } from '@/core/staff/permission'
import { boolean, index, integer, jsonb, pgTable, text, timestamp } from 'drizzle-orm/pg-core'

const moment = (name: string) => timestamp(name, { withTimezone: true, mode: 'date' })

/** Sets of permissions by name; the owner's is not kept, since nobody can change it. */
export const roles = pgTable('role', {
  code: text('code').primaryKey(),
  name: text('name').notNull(),
  permissions: jsonb('permissions').$type<readonly Permission[]>().notNull(),
  who: jsonb('who').$type<Who>(),
  what: jsonb('what').$type<What>(),
  /** How often it was changed: what an edit must have seen. */
  version: integer('version').notNull(),
})

/** People of the merchant's. The first columns are what sign-in works with. */
export const staff = pgTable('staff', {
  id: text('id').primaryKey(),
  name: text('name').notNull(),
  /** In lower case. */
  email: text('email').notNull().unique(),
  emailVerified: boolean('email_verified').notNull().default(false),
  image: text('image'),
  createdAt: moment('created_at').notNull(),
  updatedAt: moment('updated_at').notNull(),
  twoFactorEnabled: boolean('two_factor_enabled').default(false),
  /** Code. */
  role: text('role').notNull(),
  /** Narrows the role further. */
  who: jsonb('who').$type<Who>(),
  what: jsonb('what').$type<What>(),
  /** Whoever left keeps their name in the history and comes in no more. */
  left: moment('left_at'),
  version: integer('version').notNull().default(0),
})

const whose = () =>
  text('staff_id')
    .notNull()
    .references(() => staff.id, { onDelete: 'cascade' })

/** Who is signed in, from which window: gone as soon as the row is. */
export const staffSessions = pgTable(
  'staff_session',
  {
    id: text('id').primaryKey(),
    token: text('token').notNull().unique(),
    userId: whose(),
    expiresAt: moment('expires_at').notNull(),
    ipAddress: text('ip_address'),
    userAgent: text('user_agent'),
    createdAt: moment('created_at').notNull(),
    updatedAt: moment('updated_at').notNull(),
  },
  (table) => [index('staff_session_staff').on(table.userId)],
)

/** How each signs in: a digest of their password (argon2id). */
export const staffCredentials = pgTable(
  'staff_credential',
  {
    id: text('id').primaryKey(),
    userId: whose(),
    accountId: text('account_id').notNull(),
    providerId: text('provider_id').notNull(),
    password: text('password'),
    accessToken: text('access_token'),
    refreshToken: text('refresh_token'),
    idToken: text('id_token'),
    accessTokenExpiresAt: moment('access_token_expires_at'),
    refreshTokenExpiresAt: moment('refresh_token_expires_at'),
    scope: text('scope'),
    createdAt: moment('created_at').notNull(),
    updatedAt: moment('updated_at').notNull(),
  },
  (table) => [index('staff_credential_staff').on(table.userId)],
)

/** Words that were mailed to somebody and let them set a password, or that wait for a second factor. */
export const staffVerifications = pgTable(
  'staff_verification',
  {
    id: text('id').primaryKey(),
    identifier: text('identifier').notNull(),
    value: text('value').notNull(),
    expiresAt: moment('expires_at').notNull(),
    createdAt: moment('created_at').notNull(),
    updatedAt: moment('updated_at').notNull(),
  },
  (table) => [index('staff_verification_identifier').on(table.identifier)],
)

/** Secrets of authenticator apps, encrypted. */
export const staffTwoFactors = pgTable(
  'staff_two_factor',
  {
    id: text('id').primaryKey(),
    userId: whose(),
    secret: text('secret').notNull(),
    backupCodes: text('backup_codes').notNull(),
    verified: boolean('verified').default(true),
    failedVerificationCount: integer('failed_verification_count').default(0),
    lockedUntil: moment('locked_until'),
  },
  (table) => [index('staff_two_factor_staff').on(table.userId)],
)

/** Passkeys (WebAuthn level 3): public keys of devices and of stores of passwords. */
export const staffPasskeys = pgTable(
  'staff_passkey',
  {
    id: text('id').primaryKey(),
    /** What its owner calls it. */
    name: text('name'),
    publicKey: text('public_key').notNull(),
    userId: whose(),
    credentialID: text('credential_id').notNull().unique(),
    /** How often the device says it has signed; a copy would fall behind. */
    counter: integer('counter').notNull(),
    deviceType: text('device_type').notNull(),
    backedUp: boolean('backed_up').notNull(),
    transports: text('transports'),
    createdAt: moment('created_at'),
    aaguid: text('aaguid'),
  },
  (table) => [index('staff_passkey_staff').on(table.userId)],
)
