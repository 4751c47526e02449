import 'server-only'

import type { Account } from '@/core/buyers/buyer'
import type { BuyerCode } from '@/core/buyers/buyer-code'
import type { Store } from '@/core/store/store'
import { eq, lt } from 'drizzle-orm'
import { createHash, randomBytes } from 'node:crypto'
import { currentInstant } from '../clock'
import { buyerLinks, buyerPasswords } from '../database/door-schema'
import { requireRoom } from '../database/disk-room'
import type { Steppe } from '../engine/steppe'
import { queueMail, wakeMails } from '../mails/queue-mail'
import { requestAddress } from '../session/request-address'
import { countTry, forgetTries, minutesToWait, type TriedBy } from '../staff/door-tries'
import { digestPassword, isPasswordOf, passwordFault } from '../staff/passwords'

/** Who came in: the account, and the person of it by their e-mail address. */
export interface BuyerIn {
  readonly ok: true
  readonly as: BuyerCode
  readonly email: string
  /** Where they were going. */
  readonly back: string
}

type Refused =
  | { readonly ok: false; readonly code: 'wrong' | 'link-gone' | 'too-short' | 'too-long' | 'easily-guessed' }
  | { readonly ok: false; readonly code: 'too-many'; readonly minutes: number }

const LINK_MINUTES = 30
const MINUTE = 60_000
/** Looked at where there is no password, so that this takes as long. */
let nobodysDigest: Promise<string> | null = null

/** Lets somebody in who buys for an account, by their password. */
export async function signInBuyer(
  steppe: Steppe,
  typed: string,
  password: string,
): Promise<BuyerIn | Refused> {
  const { database } = steppe
  const email = typed.trim().toLowerCase()
  const tried: readonly TriedBy[] = [
    { kind: 'person', key: `buyer ${email}` },
    { kind: 'address', key: await requestAddress() },
  ]
  const minutes = await minutesToWait(database, tried)
  if (minutes > 0) return { ok: false, code: 'too-many', minutes }
  await countTry(database, tried)
  const account = accountOf(steppe, email)
  const kept = await database.query.buyerPasswords.findFirst({ where: eq(buyerPasswords.email, email) })
  nobodysDigest ??= digestPassword(randomBytes(16).toString('hex'))
  const isRight = await isPasswordOf(kept?.digest ?? (await nobodysDigest), password)
  if (!isRight || !kept || !account) return { ok: false, code: 'wrong' }
  await forgetTries(database, tried)
  return { ok: true, as: `account:${account.code}`, email, back: '' }
}

/** Mails somebody a link they come in by, or set a password by, where they buy for an account; nobody is told whether they do. */
export async function mailBuyerLink(
  steppe: Steppe,
  typed: string,
  { leads, back }: { readonly leads: 'in' | 'password'; readonly back: string },
): Promise<{ readonly ok: true } | Refused> {
  const { database } = steppe
  const email = typed.trim().toLowerCase()
  const tried: readonly TriedBy[] = [
    { kind: 'person', key: `link ${email}` },
    { kind: 'address', key: await requestAddress() },
  ]
  const minutes = await minutesToWait(database, tried)
  if (minutes > 0) return { ok: false, code: 'too-many', minutes }
  await countTry(database, tried)
  const account = accountOf(steppe, email)
  if (!account) return { ok: true }
  requireRoom(steppe)
  const word = randomBytes(32).toString('base64url')
  const now = currentInstant()
  await database.transaction(async (transaction) => {
    await transaction.delete(buyerLinks).where(lt(buyerLinks.expiresAt, now))
    await transaction.insert(buyerLinks).values({
      ...{ id: digestOf(word), email, back },
      expiresAt: new Date(now.getTime() + LINK_MINUTES * MINUTE),
    })
    await queueMail(
      transaction,
      { to: email, account: account.id, at: now },
      { kind: 'shop-link', word, leads },
    )
  })
  wakeMails(steppe)
  return { ok: true }
}

/** Lets whoever has a mailed link in, once. */
export async function enterByLink(steppe: Steppe, word: string): Promise<BuyerIn | Refused> {
  const [link] = await steppe.database
    .delete(buyerLinks)
    .where(eq(buyerLinks.id, digestOf(word)))
    .returning()
  const account = link && link.expiresAt > currentInstant() ? accountOf(steppe, link.email) : null
  return link && account
    ? { ok: true, as: `account:${account.code}`, email: link.email, back: link.back }
    : { ok: false, code: 'link-gone' }
}

/** Sets the password of whoever has a mailed link, and lets them in. */
export async function setBuyerPassword(
  steppe: Steppe,
  word: string,
  password: string,
): Promise<BuyerIn | Refused> {
  const { database } = steppe
  const link = await database.query.buyerLinks.findFirst({ where: eq(buyerLinks.id, digestOf(word)) })
  const fault = await passwordFault(password, [link?.email ?? ''])
  if (fault) return { ok: false, code: fault }
  const came = await enterByLink(steppe, word)
  if (!came.ok) return came
  const kept = { digest: await digestPassword(password), at: currentInstant() }
  await database
    .insert(buyerPasswords)
    .values({ email: came.email, ...kept })
    .onConflictDoUpdate({ target: buyerPasswords.email, set: kept })
  return came
}

/** The account somebody buys for; of several the first by its code. */
function accountOf({ prepared }: Steppe, email: string): Account | null {
  return prepared && findAccount(prepared.store, email)
}

function findAccount(store: Store, email: string): Account | null {
  const own = [...store.account.values()].filter(
    ({ status, emails }) => status === 'active' && emails.some((each) => each.toLowerCase() === email),
  )
  return own.sort((left, right) => (left.code < right.code ? -1 : 1))[0] ?? null
}

function digestOf(word: string): string {
  return createHash('sha256').update(word).digest('hex')
}
