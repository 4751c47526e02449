import 'server-only'

import type {
  AuthenticationResponseJSON,
  PublicKeyCredentialCreationOptionsJSON,
  PublicKeyCredentialRequestOptionsJSON,
  RegistrationResponseJSON,
} from '@simplewebauthn/server'
import { isAPIError } from 'better-auth/api'
import { and, asc, eq } from 'drizzle-orm'
import { headers } from 'next/headers'
import { staff, staffPasskeys } from '../database/staff-schema'
import type { Steppe } from '../engine/steppe'
import { requestAddress } from '../session/request-address'
import { noteAudit } from './audit'
import { countTry, forgetTries, minutesToWait, type TriedBy } from './door-tries'
import { type Own, withPassword } from './own-account'
import type { CameIn, PasswordSet } from './sign-in'
import { signInEngine } from './sign-in-engine'

export interface OwnPasskey {
  readonly id: string
  readonly name: string
  readonly since: Date
}

/** How a passkey may be called. */
export const LONGEST_PASSKEY_NAME = 60

/** Somebody's passkeys, the oldest first. */
export async function ownPasskeys(
  { database }: Pick<Steppe, 'database'>,
  id: string,
): Promise<readonly OwnPasskey[]> {
  const rows = await database
    .select()
    .from(staffPasskeys)
    .where(eq(staffPasskeys.userId, id))
    .orderBy(asc(staffPasskeys.createdAt))
  return rows.map((row) => ({ id: row.id, name: row.name ?? '', since: row.createdAt ?? new Date(0) }))
}

/** What a browser is asked to make a passkey from, for whoever gives their password. */
export async function beginPasskey(
  steppe: Steppe,
  own: Own,
  password: string,
): Promise<
  | (PasswordSet & { readonly ok: false })
  | { readonly ok: true; readonly options: PublicKeyCredentialCreationOptionsJSON }
> {
  let options: PublicKeyCredentialCreationOptionsJSON | null = null
  const outcome = await withPassword(steppe, own, async () => {
    const engine = await signInEngine(steppe)
    const given = { headers: await headers() }
    await engine.api.verifyPassword({ ...given, body: { password } })
    options = await engine.api.generatePasskeyRegistrationOptions(given)
  })
  if (!outcome.ok) return outcome
  return options ? { ok: true, options } : { ok: false, code: 'wrong' }
}

/** Keeps the passkey a browser has made for what it was asked a moment ago, under a name. */
export async function keepPasskey(
  steppe: Steppe,
  own: Own,
  name: string,
  response: RegistrationResponseJSON,
): Promise<boolean> {
  const engine = await signInEngine(steppe)
  try {
    await engine.api.verifyPasskeyRegistration({ headers: await headers(), body: { response, name } })
  } catch (error) {
    if (!isAPIError(error)) throw error
    return false
  }
  await noteAudit(steppe.database, {
    ...{ kind: 'passkey-added', who: own.name, about: name, address: await requestAddress() },
  })
  return true
}

/** Does without one of somebody's own passkeys; of nobody else's. */
export async function removePasskey(steppe: Steppe, own: Own, id: string): Promise<boolean> {
  const [gone] = await steppe.database
    .delete(staffPasskeys)
    .where(and(eq(staffPasskeys.id, id), eq(staffPasskeys.userId, own.id)))
    .returning()
  if (!gone) return false
  await noteAudit(steppe.database, {
    ...{ kind: 'passkey-removed', who: own.name, about: gone.name ?? '', address: await requestAddress() },
  })
  return true
}

/** What a browser is asked to sign by a passkey, whosever it has. */
export async function beginPasskeySignIn(steppe: Steppe): Promise<PublicKeyCredentialRequestOptionsJSON> {
  const engine = await signInEngine(steppe)
  const options = await engine.api.generatePasskeyAuthenticationOptions({ headers: await headers() })
  return { ...options, userVerification: 'required' }
}

/**
 * Signs whoever holds a passkey in. It stands for the password and the second factor at once: something they have, opened by something
 * they are or know.
 */
export async function signInByPasskey(steppe: Steppe, response: AuthenticationResponseJSON): Promise<CameIn> {
  const { database } = steppe
  const address = await requestAddress()
  const tried: readonly TriedBy[] = [{ kind: 'address', key: address }]
  const minutes = await minutesToWait(database, tried)
  if (minutes > 0) return { ok: false, code: 'too-many', minutes }
  await countTry(database, tried)
  const [holder] = await database
    .select({ name: staff.name, left: staff.left })
    .from(staffPasskeys)
    .innerJoin(staff, eq(staff.id, staffPasskeys.userId))
    .where(eq(staffPasskeys.credentialID, response.id))
  const refuse = async (): Promise<CameIn> => {
    await noteAudit(database, {
      ...{ kind: 'sign-in-refused', who: holder?.name ?? '', detail: 'passkey', address },
    })
    return { ok: false, code: 'wrong' }
  }
  if (!holder || holder.left) return refuse()
  const engine = await signInEngine(steppe)
  try {
    await engine.api.verifyPasskeyAuthentication({
      headers: await headers(),
      body: { response: { ...response } },
    })
  } catch (error) {
    if (!isAPIError(error)) throw error
    return refuse()
  }
  await forgetTries(database, tried)
  await noteAudit(database, { kind: 'signed-in', who: holder.name, detail: 'passkey', address })
  return { ok: true, needs: 'nothing' }
}
