import 'server-only'

import { OWNER } from '@/core/staff/role'
import { isAPIError } from 'better-auth/api'
import { and, eq, isNull } from 'drizzle-orm'
import { headers } from 'next/headers'
import { staff } from '../database/staff-schema'
import type { Steppe } from '../engine/steppe'
import { requestAddress } from '../session/request-address'
import { noteAudit } from './audit'
import { countTry, forgetTries, minutesToWait, type TriedBy } from './door-tries'
import { passwordFault } from './passwords'
import { takeFirstCode } from './first-start'
import { addPerson } from './staff-rows'
import { signInEngine } from './sign-in-engine'

/** What came of a try at a door. */
export type CameIn =
  | { readonly ok: true; readonly needs: 'nothing' | 'second-factor' }
  | { readonly ok: false; readonly code: 'wrong' }
  /** Nobody is listened to for so many minutes. */
  | { readonly ok: false; readonly code: 'too-many'; readonly minutes: number }

/** What came of setting a password. */
export type PasswordSet =
  | { readonly ok: true }
  | { readonly ok: false; readonly code: 'too-short' | 'too-long' | 'easily-guessed' | 'link-gone' | 'wrong' }
  | { readonly ok: false; readonly code: 'too-many'; readonly minutes: number }

/** Signs one of the merchant's people in, in the window this request came from. */
export async function signInPerson(steppe: Steppe, email: string, password: string): Promise<CameIn> {
  const { database } = steppe
  const name = email.trim().toLowerCase()
  const address = await requestAddress()
  const tried: readonly TriedBy[] = [
    { kind: 'person', key: `staff ${name}` },
    { kind: 'address', key: address },
  ]
  const minutes = await minutesToWait(database, tried)
  if (minutes > 0) return { ok: false, code: 'too-many', minutes }
  await countTry(database, tried)
  const person = await database.query.staff.findFirst({ where: eq(staff.email, name) })
  const engine = await signInEngine(steppe)
  try {
    // Whoever left takes as long to refuse as whoever mistyped.
    const outcome = await engine.api.signInEmail({
      body: { email: person?.left ? `left.${name}` : name, password },
      headers: await headers(),
    })
    await forgetTries(database, tried)
    if ('twoFactorRedirect' in outcome) return { ok: true, needs: 'second-factor' }
    await noteAudit(database, { kind: 'signed-in', who: person?.name ?? name, address })
    return { ok: true, needs: 'nothing' }
  } catch (error) {
    if (!isAPIError(error)) throw error
    await noteAudit(database, { kind: 'sign-in-refused', who: name, detail: 'password', address })
    return { ok: false, code: 'wrong' }
  }
}

/** Takes the second factor of whoever gave their password a moment ago: a code of their app, or one of those kept for when it is lost. */
export async function giveSecondFactor(steppe: Steppe, code: string): Promise<CameIn> {
  const { database } = steppe
  const address = await requestAddress()
  const tried: readonly TriedBy[] = [{ kind: 'address', key: `second ${address}` }]
  const minutes = await minutesToWait(database, tried)
  if (minutes > 0) return { ok: false, code: 'too-many', minutes }
  await countTry(database, tried)
  const engine = await signInEngine(steppe)
  const given = { headers: await headers() }
  const plain = code.replace(/\s/g, '')
  try {
    const { user } = /^\d{6}$/.test(plain)
      ? await engine.api.verifyTOTP({ ...given, body: { code: plain } })
      : await engine.api.verifyBackupCode({ ...given, body: { code: plain } })
    await forgetTries(database, tried)
    await noteAudit(database, { kind: 'signed-in', who: user.name, detail: 'second factor', address })
    return { ok: true, needs: 'nothing' }
  } catch (error) {
    if (!isAPIError(error)) throw error
    await noteAudit(database, { kind: 'sign-in-refused', who: '', detail: 'second factor', address })
    return { ok: false, code: 'wrong' }
  }
}

/** Signs whoever is in this window out. */
export async function signOutPerson(steppe: Steppe, name: string): Promise<void> {
  const engine = await signInEngine(steppe)
  await engine.api.signOut({ headers: await headers() })
  await noteAudit(steppe.database, { kind: 'signed-out', who: name, address: await requestAddress() })
}

/** Has a link mailed to set a new password by, where the address is somebody's; nobody is told whether it is. */
export async function askForPassword(steppe: Steppe, email: string): Promise<CameIn> {
  const { database } = steppe
  const name = email.trim().toLowerCase()
  const address = await requestAddress()
  const tried: readonly TriedBy[] = [
    { kind: 'person', key: `lost ${name}` },
    { kind: 'address', key: address },
  ]
  const minutes = await minutesToWait(database, tried)
  if (minutes > 0) return { ok: false, code: 'too-many', minutes }
  await countTry(database, tried)
  const person = await database.query.staff.findFirst({
    where: and(eq(staff.email, name), isNull(staff.left)),
  })
  if (person) {
    const engine = await signInEngine(steppe)
    await engine.api.requestPasswordReset({ body: { email: name }, headers: await headers() })
    await noteAudit(database, { kind: 'password-asked', who: person.name, address })
  }
  return { ok: true, needs: 'nothing' }
}

/** Sets the password of whoever a mailed link is of; every window they were signed in at is signed out. */
export async function setPasswordByLink(
  steppe: Steppe,
  word: string,
  password: string,
): Promise<PasswordSet> {
  const { database } = steppe
  const engine = await signInEngine(steppe)
  const { internalAdapter } = await engine.$context
  const link = await internalAdapter.findVerificationValue(`reset-password:${word.slice(0, 100)}`)
  const person =
    link && link.expiresAt > new Date()
      ? await database.query.staff.findFirst({ where: and(eq(staff.id, link.value), isNull(staff.left)) })
      : undefined
  if (!person) return { ok: false, code: 'link-gone' }
  const fault = await passwordFault(password, [person.name, person.email, 'steppe'])
  if (fault) return { ok: false, code: fault }
  try {
    await engine.api.resetPassword({ body: { token: word, newPassword: password } })
  } catch (error) {
    if (!isAPIError(error)) throw error
    return { ok: false, code: 'link-gone' }
  }
  await noteAudit(database, { kind: 'password-set', who: person.name, address: await requestAddress() })
  return { ok: true }
}

/** Whoever has the code that was printed when an empty installation started becomes its owner, and is signed in. */
export async function becomeOwner(
  steppe: Steppe,
  { code, name, email, password }: Record<'code' | 'name' | 'email' | 'password', string>,
): Promise<PasswordSet> {
  const { database } = steppe
  const address = await requestAddress()
  const tried: readonly TriedBy[] = [{ kind: 'code', key: 'owner' }]
  const minutes = await minutesToWait(database, tried)
  if (minutes > 0) return { ok: false, code: 'too-many', minutes }
  const fault = await passwordFault(password, [name, email, 'steppe'])
  if (fault) return { ok: false, code: fault }
  await countTry(database, tried)
  if (!(await takeFirstCode(database, code))) {
    await noteAudit(database, { kind: 'sign-in-refused', who: email, detail: 'first code', address })
    return { ok: false, code: 'wrong' }
  }
  const engine = await signInEngine(steppe)
  const { internalAdapter, password: passwords } = await engine.$context
  const person = await addPerson(database, { name, email, role: OWNER, who: null, what: null })
  if (!person) return { ok: false, code: 'wrong' }
  await internalAdapter.linkAccount({
    userId: person,
    providerId: 'credential',
    accountId: person,
    password: await passwords.hash(password),
  })
  await forgetTries(database, tried)
  await noteAudit(database, { kind: 'became-owner', who: name, address })
  await signInPerson(steppe, email, password)
  return { ok: true }
}
