import 'server-only'

import { OWNER } from '@/core/staff/role'
import { and, asc, eq, isNull, sql } from 'drizzle-orm'
import { randomBytes, randomUUID } from 'node:crypto'
import type { Transaction } from '../changes/commit-outcome'
import { currentInstant } from '../clock'
import type { Database } from '../database/database'
import { staff, staffCredentials, staffSessions } from '../database/staff-schema'
import { shopSessions } from '../database/selling-schema'
import type { Steppe } from '../engine/steppe'
import { wakeMails } from '../mails/queue-mail'
import { queuePasswordMail } from './password-mail'
import { signInEngine } from './sign-in-engine'

export type StaffPerson = typeof staff.$inferSelect

const DAY = 86_400_000
const INVITED_DAYS = 3

/** Everybody of the merchant's, whoever left last. */
export function listStaff(database: Database): Promise<readonly StaffPerson[]> {
  return database
    .select()
    .from(staff)
    .orderBy(sql`${staff.left} is not null`, asc(staff.name))
}

export async function findPerson(database: Database, id: string): Promise<StaffPerson | null> {
  return (await database.query.staff.findFirst({ where: eq(staff.id, id) })) ?? null
}

/** When each person last came in, by id; nobody who is signed in nowhere. */
export async function lastSeen(database: Database): Promise<ReadonlyMap<string, Date>> {
  const rows = await database
    .select({ id: staffSessions.userId, at: sql<string>`max(${staffSessions.createdAt})::text` })
    .from(staffSessions)
    .groupBy(staffSessions.userId)
  return new Map(rows.map(({ id, at }) => [id, new Date(at)]))
}

/** Ids of those who have set a password. */
export async function peopleWithPassword(database: Database): Promise<ReadonlySet<string>> {
  const rows = await database.select({ id: staffCredentials.userId }).from(staffCredentials)
  return new Set(rows.map(({ id }) => id))
}

/** Adds a person who cannot come in yet. Resolves to their id; `null` where somebody has the address already. */
export async function addPerson(
  database: Database,
  person: Pick<StaffPerson, 'name' | 'email' | 'role' | 'who' | 'what'>,
): Promise<string | null> {
  const at = currentInstant()
  const added = await database
    .insert(staff)
    .values({
      ...{ ...person, email: person.email.trim().toLowerCase(), id: randomUUID() },
      ...{ createdAt: at, updatedAt: at },
    })
    .onConflictDoNothing()
    .returning()
  return added[0]?.id ?? null
}

/** Mails somebody the link again they set their password by. */
export async function mailInvitation(
  steppe: Steppe,
  { id, name, email }: Pick<StaffPerson, 'id' | 'name' | 'email'>,
): Promise<void> {
  const { internalAdapter } = await (await signInEngine(steppe)).$context
  const word = randomBytes(24).toString('base64url')
  await internalAdapter.createVerificationValue({
    value: id,
    identifier: `reset-password:${word}`,
    expiresAt: new Date(Date.now() + INVITED_DAYS * DAY),
  })
  await queuePasswordMail(steppe, { name, email }, word, 'invited')
  wakeMails(steppe)
}

export type PersonChanged = 'changed' | 'stale' | 'last-owner'

/** Changes what somebody may do, from their next request on. The last owner stays one. */
export async function changePerson(
  { database }: Pick<Steppe, 'database'>,
  id: string,
  seen: number,
  change: Partial<Pick<StaffPerson, 'name' | 'role' | 'who' | 'what'>>,
): Promise<PersonChanged> {
  return database.transaction(async (transaction): Promise<PersonChanged> => {
    const isOwnerStill = change.role === undefined || change.role === OWNER
    if (!isOwnerStill && (await isLastOwner(transaction, id))) return 'last-owner'
    const changed = await transaction
      .update(staff)
      .set({ ...change, version: seen + 1 })
      .where(and(eq(staff.id, id), eq(staff.version, seen)))
      .returning()
    return changed.length > 0 ? 'changed' : 'stale'
  })
}

/** Lets somebody in no more, from this moment on, and whatever window they left open. */
export async function letGo({ database }: Pick<Steppe, 'database'>, id: string): Promise<PersonChanged> {
  return database.transaction(async (transaction): Promise<PersonChanged> => {
    if (await isLastOwner(transaction, id)) return 'last-owner'
    await transaction.update(staff).set({ left: currentInstant() }).where(eq(staff.id, id))
    await transaction.delete(staffSessions).where(eq(staffSessions.userId, id))
    await transaction.delete(shopSessions).where(eq(shopSessions.looker, id))
    return 'changed'
  })
}

/** Takes somebody back who left; they sign in as before. */
export async function takeBack({ database }: Pick<Steppe, 'database'>, id: string): Promise<void> {
  await database.update(staff).set({ left: null }).where(eq(staff.id, id))
}

/** Whether somebody is the only owner. Two who let each other go at once do it one after the other: owners are held until then. */
async function isLastOwner(transaction: Transaction, id: string): Promise<boolean> {
  const owners = await transaction
    .select({ id: staff.id })
    .from(staff)
    .where(and(eq(staff.role, OWNER), isNull(staff.left)))
    .orderBy(asc(staff.id))
    .for('update')
  return owners.length === 1 && owners[0]?.id === id
}
