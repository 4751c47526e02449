import 'server-only'

import { and, desc, gte, lt, or, sql } from 'drizzle-orm'
import { currentInstant } from '../clock'
import { auditEvents } from '../database/door-schema'
import type { Database } from '../database/database'

/** What is written down of the doors. */
export const AUDIT_KINDS = [
  'signed-in',
  'signed-out',
  'sign-in-refused',
  'refused',
  'password-set',
  'password-asked',
  'second-factor',
  'passkey-added',
  'passkey-removed',
  'became-owner',
  'person-invited',
  'person-changed',
  'person-left',
  'role-changed',
  'key-made',
  'key-revoked',
  'exported',
  'published',
  'store-replaced',
] as const

export type AuditKind = (typeof AUDIT_KINDS)[number]

export interface AuditNote {
  readonly kind: AuditKind
  readonly who: string
  readonly about?: string
  readonly detail?: string
  readonly address?: string
}

export type AuditEvent = typeof auditEvents.$inferSelect

/** Writes down what happened at a door. */
export async function noteAudit(
  database: Pick<Database, 'insert'>,
  { kind, who, about = '', detail = '', address = '' }: AuditNote,
): Promise<void> {
  const short = (text: string) => text.slice(0, 300)
  await database.insert(auditEvents).values({
    at: currentInstant(),
    ...{ kind, who: short(who), about: short(about), detail: short(detail), address: short(address) },
  })
}

/** What happened, the latest first: some words of it, of one kind, before an event. */
export function listAudit(
  database: Database,
  wanted: {
    readonly kind: AuditKind | null
    readonly words: string
    readonly since: Date | null
    readonly before: number | null
  },
  most: number,
): Promise<readonly AuditEvent[]> {
  const holds = `%${wanted.words.replace(/[\\%_]/g, '\\$&')}%`
  return database
    .select()
    .from(auditEvents)
    .where(
      and(
        wanted.kind === null ? undefined : sql`${auditEvents.kind} = ${wanted.kind}`,
        wanted.since === null ? undefined : gte(auditEvents.at, wanted.since),
        wanted.before === null ? undefined : lt(auditEvents.id, wanted.before),
        wanted.words === ''
          ? undefined
          : or(
              sql`${auditEvents.who} ilike ${holds}`,
              sql`${auditEvents.about} ilike ${holds}`,
              sql`${auditEvents.detail} ilike ${holds}`,
              sql`${auditEvents.address} ilike ${holds}`,
            ),
      ),
    )
    .orderBy(desc(auditEvents.id))
    .limit(most)
}
