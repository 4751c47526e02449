import 'server-only'

import { isAPIError } from 'better-auth/api'
import { and, desc, eq, gt } from 'drizzle-orm'
import { headers } from 'next/headers'
import { staff, staffSessions } from '../database/staff-schema'
import type { Steppe } from '../engine/steppe'
import { requestAddress } from '../session/request-address'
import { noteAudit } from './audit'
import { countTry, forgetTries, minutesToWait, type TriedBy } from './door-tries'
import { passwordFault } from './passwords'
import type { PasswordSet } from './sign-in'
import { signInEngine } from './sign-in-engine'

/** One of the merchant's people, for what they change of their own sign-in. */
export interface Own {
  readonly id: string
  readonly name: string
  readonly email: string
}

/** What an authenticator app is told, once. */
export interface SecondFactor {
  /** `otpauth:` address (key URI format). */
  readonly address: string
  /** Codes that open once each, for when the app is lost. */
  readonly spare: readonly string[]
}

export interface OwnWindow {
  readonly at: Date
  readonly agent: string
  readonly address: string
}

/** Changes somebody's own password; every other window of theirs is signed out. */
export async function changeOwnPassword(
  steppe: Steppe,
  own: Own,
  { current, next }: { readonly current: string; readonly next: string },
): Promise<PasswordSet> {
  const fault = await passwordFault(next, [own.name, own.email, 'steppe'])
  if (fault) return { ok: false, code: fault }
  return withPassword(steppe, own, async () => {
    const engine = await signInEngine(steppe)
    await engine.api.changePassword({
      headers: await headers(),
      body: { currentPassword: current, newPassword: next, revokeOtherSessions: true },
    })
    await noteAudit(steppe.database, { kind: 'password-set', who: own.name, address: await requestAddress() })
  })
}

/** Begins a second factor; it holds once a code of it was given back. */
export async function beginSecondFactor(
  steppe: Steppe,
  own: Own,
  password: string,
): Promise<(PasswordSet & { readonly ok: false }) | ({ readonly ok: true } & SecondFactor)> {
  let made: SecondFactor | null = null
  const outcome = await withPassword(steppe, own, async () => {
    const engine = await signInEngine(steppe)
    const enabled = await engine.api.enableTwoFactor({ headers: await headers(), body: { password } })
    if ('totpURI' in enabled) made = { address: enabled.totpURI, spare: enabled.backupCodes }
  })
  if (!outcome.ok) return outcome
  return made ? { ok: true, ...(made as SecondFactor) } : { ok: false, code: 'wrong' }
}

/** Takes a code of the app that was just set up: from now on one is asked for. */
export function confirmSecondFactor(steppe: Steppe, own: Own, code: string): Promise<PasswordSet> {
  return withPassword(steppe, own, async () => {
    const engine = await signInEngine(steppe)
    await engine.api.verifyTOTP({ headers: await headers(), body: { code: code.replace(/\s/g, '') } })
    await noteAudit(steppe.database, {
      ...{ kind: 'second-factor', who: own.name, detail: 'on', address: await requestAddress() },
    })
  })
}

/** Does without a second factor again. */
export function endSecondFactor(steppe: Steppe, own: Own, password: string): Promise<PasswordSet> {
  return withPassword(steppe, own, async () => {
    const engine = await signInEngine(steppe)
    await engine.api.disableTwoFactor({ headers: await headers(), body: { password } })
    await noteAudit(steppe.database, {
      ...{ kind: 'second-factor', who: own.name, detail: 'off', address: await requestAddress() },
    })
  })
}

/** Where somebody is signed in, the latest first, and whether a second factor is asked for. */
export async function ownStanding(
  { database }: Pick<Steppe, 'database'>,
  id: string,
): Promise<{ readonly windows: readonly OwnWindow[]; readonly hasSecondFactor: boolean }> {
  const rows = await database
    .select()
    .from(staffSessions)
    .where(and(eq(staffSessions.userId, id), gt(staffSessions.expiresAt, new Date())))
    .orderBy(desc(staffSessions.createdAt))
    .limit(20)
  const person = await database.query.staff.findFirst({ where: eq(staff.id, id) })
  return {
    windows: rows.map(({ createdAt, userAgent, ipAddress }) => ({
      ...{ at: createdAt, agent: userAgent ?? '', address: ipAddress ?? '' },
    })),
    hasSecondFactor: person?.twoFactorEnabled === true,
  }
}

/** Signs somebody out of every window but this one. */
export async function endOtherWindows(steppe: Steppe): Promise<void> {
  const engine = await signInEngine(steppe)
  await engine.api.revokeOtherSessions({ headers: await headers() })
}

/** Whoever sits down at somebody's open window does not guess their password there either. */
export async function withPassword(
  steppe: Steppe,
  { email }: Own,
  act: () => Promise<void>,
): Promise<PasswordSet> {
  const { database } = steppe
  const tried: readonly TriedBy[] = [{ kind: 'person', key: `own ${email}` }]
  const minutes = await minutesToWait(database, tried)
  if (minutes > 0) return { ok: false, code: 'too-many', minutes }
  await countTry(database, tried)
  try {
    await act()
    await forgetTries(database, tried)
    return { ok: true }
  } catch (error) {
    if (!isAPIError(error)) throw error
    return { ok: false, code: 'wrong' }
  }
}
