import 'server-only'

import { isKeyScope, type KeyScope } from '@/core/staff/key-scope'
import type { Permission } from '@/core/staff/permission'
import { and, desc, eq, isNull, sql } from 'drizzle-orm'
import { createHash, randomBytes, randomUUID } from 'node:crypto'
import { currentInstant } from '../clock'
import { apiKeys } from '../database/door-schema'
import type { Steppe } from '../engine/steppe'
import type { Doer } from '../session/doing'

export type ApiKey = typeof apiKeys.$inferSelect

export type FoundKey =
  | { readonly ok: true; readonly doer: Doer; readonly scopes: readonly KeyScope[] }
  | { readonly ok: false; readonly code: 'unknown' }
  | { readonly ok: false; readonly code: 'too-many'; readonly perMinute: number; readonly seconds: number }

/** Long enough that nobody guesses one, so that a quick digest is enough to keep it by. */
const KEY = /^Bearer (stp_[A-Za-z0-9_-]{43})$/
const MINUTE = 60_000

/** What each scope lets a program do. */
const PERMITS: Readonly<Record<KeyScope, readonly Permission[]>> = {
  'prices:ask': ['prices:look'],
  'costs:see': ['costs:see'],
  'store:read': ['store:export'],
  'store:write': ['live:edit', 'drafts:edit'],
  'measures:read': [],
}

/**
 * The key an `Authorization` header holds, and counts this request of it.
 *
 * Errors  `unknown` for one there is none of, any more; `too-many` for more requests than it may send in a minute.
 */
export async function findKey({ database }: Pick<Steppe, 'database'>, header: string): Promise<FoundKey> {
  const word = KEY.exec(header)?.[1]
  if (word === undefined) return { ok: false, code: 'unknown' }
  const now = currentInstant()
  const [counted] = await database
    .update(apiKeys)
    .set({
      lastUsed: now,
      minute: sql`case when ${apiKeys.minute} > ${new Date(now.getTime() - MINUTE)} then ${apiKeys.minute} else ${now} end`,
      used: sql`case when ${apiKeys.minute} > ${new Date(now.getTime() - MINUTE)} then ${apiKeys.used} + 1 else 1 end`,
    })
    .where(and(eq(apiKeys.digest, digestOf(word)), isNull(apiKeys.revokedAt)))
    .returning()
  if (!counted || (counted.expiresAt !== null && counted.expiresAt <= now))
    return { ok: false, code: 'unknown' }
  const { perMinute, used, minute } = counted
  if (used > perMinute) {
    const ends = (minute ?? now).getTime() + MINUTE
    return {
      ok: false,
      code: 'too-many',
      perMinute,
      seconds: Math.max(1, Math.ceil((ends - now.getTime()) / 1_000)),
    }
  }
  const scopes = counted.scopes.filter(isKeyScope)
  return { ok: true, scopes, doer: keyAsDoer(counted, scopes) }
}

function keyAsDoer({ id, name }: ApiKey, scopes: readonly KeyScope[]): Doer {
  return {
    ...{ id, kind: 'key', name: `Key ${name}`, email: '', role: 'Key' },
    permissions: new Set(scopes.flatMap((scope) => PERMITS[scope])),
    narrowings: [],
    buyers: null,
  }
}

/** Makes a key; resolves to it, which nobody sees again. */
export async function makeKey(
  { database }: Pick<Steppe, 'database'>,
  wanted: Pick<ApiKey, 'name' | 'scopes' | 'perMinute' | 'expiresAt' | 'madeBy'>,
): Promise<string> {
  const word = `stp_${randomBytes(32).toString('base64url')}`
  await database.insert(apiKeys).values({
    ...{ ...wanted, id: randomUUID(), start: word.slice(0, 8), digest: digestOf(word) },
    madeAt: currentInstant(),
  })
  return word
}

/** Ends a key at once. Resolves to its name; `null` for one that is none, or has ended. */
export async function revokeKey({ database }: Pick<Steppe, 'database'>, id: string): Promise<string | null> {
  const [revoked] = await database
    .update(apiKeys)
    .set({ revokedAt: currentInstant() })
    .where(and(eq(apiKeys.id, id), isNull(apiKeys.revokedAt)))
    .returning()
  return revoked?.name ?? null
}

export function listKeys({ database }: Pick<Steppe, 'database'>): Promise<readonly ApiKey[]> {
  return database.select().from(apiKeys).orderBy(desc(apiKeys.madeAt))
}

function digestOf(word: string): string {
  return createHash('sha256').update(word).digest('hex')
}
