import 'server-only'

import type { Person } from '@/core/buyers/buyer'
import { type BuyerCode, isBuyerCode } from '@/core/buyers/buyer-code'
import type { PreparedStore } from '@/core/engine/context/prepared-store'
import type { PricingContext } from '@/core/engine/context/pricing-context'
import type { BuyerContext } from '@/core/engine/context/buyer-context'
import { PLACE_TEXT, resolveVantage, type Vantage } from '@/core/engine/context/vantage'
import { type ItemPromotions, openItemPromotions } from '@/core/engine/promoted/item-promotions'
import { NO_FACTS, type PromotionFacts } from '@/core/promotions/facts'
import type { Store } from '@/core/store/store'
import { sharedMemory } from '@/core/maps/shared-memory'
import { currentInstant } from '@/server/clock'
import { eq, lt } from 'drizzle-orm'
import { refresh } from 'next/cache'
import { cookies } from 'next/headers'
import { createHash, randomBytes, randomUUID } from 'node:crypto'
import { cache } from 'react'
import { requireRoom } from '../database/disk-room'
import { shopSessions } from '../database/selling-schema'
import { pricingContextOf } from '../engine/request-context'
import { isBehindTls } from '../doors/outer-door'
import { LatelyRead } from '../database/presence'
import { freshSteppe } from '../changes/follow'
import { getSteppe, type Steppe } from '../engine/steppe'
import type { View } from '../views/view'
import { getView } from '../views/views'
import { readCartFacts } from '../shop/cart-store'
import { priorPricesStruck } from '../shop/prior-prices'
import { factsOfBuyer } from '../shop/promotion-facts'

/** A random word that says nothing: whom it stands for is in the database. */
const COOKIE = 'steppe-shop'
const KEPT = { path: '/', httpOnly: true, sameSite: 'lax' } as const
const WORD = /^[A-Za-z0-9_-]{43}$/
const LIFETIME_DAYS = 30
const DAY = 86_400_000

/** Who was in the shop lately, so that they may go on looking while the database is gone. */
const LATELY = sharedMemory('lately-in-shop', () => new LatelyRead<Session | null>())

type Session = typeof shopSessions.$inferSelect

const NOBODY: Omit<Session, 'id' | 'at'> = {
  buyer: 'guest',
  deliverTo: null,
  currency: null,
  passcode: null,
  cart: null,
  draft: null,
  person: null,
  looker: null,
}

/** Who is in the shop, from where, and what holds for them. */
export interface ShopVisitor {
  readonly prepared: PreparedStore
  readonly vantage: Vantage
  readonly buyerContext: BuyerContext
  readonly pricingContext: PricingContext
  readonly as: BuyerCode
  readonly name: string
  /** The person who signed in for an account; `null` for guests, and where nobody in particular did. */
  readonly person: Person | null
  /** Of their cart; `null` before anything was put in. */
  readonly cart: string | null
  /** What promotions ask beside what lies in their cart. */
  readonly facts: PromotionFacts
  /** What changes the prices of single items for them. */
  readonly itemPromotions: ItemPromotions
}

/** The store that is open in the shop: what is live, or the draft the merchant looks at it through. */
export async function shopView(): Promise<View> {
  const draft = (await readSession())?.draft ?? null
  return getView(await getSteppe(), draft === null ? { kind: 'live' } : { kind: 'draft', code: draft })
}

/** Lets the merchant look at the shop through a draft from now on; `null` is what is live. */
export async function lookThrough(draft: string | null): Promise<void> {
  const session = await readSession()
  if (draft !== null || session?.draft) await changeSession({ draft })
}

/** Whether somebody of the merchant's looks with a buyer's eyes: they bind nobody. */
export async function isLookedThrough(): Promise<boolean> {
  return ((await readSession())?.looker ?? null) !== null
}

/** The visitor of this request: whoever signed in, else a guest. Somebody who is gone is a guest too. */
export async function shopVisitor(): Promise<ShopVisitor> {
  const { prepared } = await shopView()
  const session = (await readSession()) ?? NOBODY
  const vantage: Vantage = {
    as: isBuyerCode(session.buyer) ? session.buyer : 'guest',
    buying: 1,
    channel: null,
    deliverTo: session.deliverTo,
    currency: session.currency,
    on: null,
    draft: session.draft,
  }
  const resolved = resolveVantage(prepared.store, vantage, currentInstant().getTime())
  const isGiven = session.passcode !== null && prepared.store.passcode.has(session.passcode)
  const steppe = await getSteppe()
  const standsThere = { ...resolved.buyerContext, passcode: isGiven ? session.passcode : null }
  // What is struck through is missed less than a price.
  const priorPrices = await steppe.presence.orKnown(
    () => priorPricesStruck(steppe, standsThere),
    () => null,
  )
  const buyerContext = { ...standsThere, priorPrices }
  const pricingContext = pricingContextOf(prepared, buyerContext)
  const standing = { prepared, pricingContext, buyerContext, cart: session.cart }
  const facts = await visitorFacts(steppe, standing)
  return {
    prepared,
    vantage,
    buyerContext,
    pricingContext,
    as: resolved.as,
    name: resolved.buyerName,
    person: personOf(prepared.store, buyerContext, session.person),
    cart: session.cart,
    facts,
    itemPromotions: openItemPromotions(prepared, pricingContext, buyerContext.at, facts),
  }
}

/** Who signed in for an account; of whom nothing else is known orders freely under their address. */
function personOf(store: Store, { buyer }: BuyerContext, email: string | null): Person | null {
  const account = buyer.kind === 'account' ? store.account.get(buyer.account) : undefined
  if (!account || email === null || !account.emails.includes(email)) return null
  const known = account.people.find((each) => each.email === email)
  return known ?? { name: email, email, approves: false, limit: null }
}

/** What promotions ask of a visitor beside what lies in their cart: what they did, typed and chose. */
export async function visitorFacts(
  steppe: Steppe,
  visitor: Pick<ShopVisitor, 'prepared' | 'pricingContext' | 'buyerContext' | 'cart'>,
): Promise<PromotionFacts> {
  if (visitor.prepared.store.promotion.size === 0) return NO_FACTS
  return steppe.presence.orKnown(
    async () => {
      const { codes, choices, payment } = await readCartFacts(steppe, visitor.cart)
      return { ...(await factsOfBuyer(steppe, visitor, ownerOf(visitor))), codes, choices, payment }
    },
    () => NO_FACTS,
  )
}

/** The id of the visitor's cart, given to them when they put the first thing in. */
export async function cartOfVisitor(): Promise<string> {
  const known = (await readSession())?.cart
  if (known) return known
  const cart = randomUUID()
  await changeSession({ cart })
  return cart
}

/** Remembers a passcode that was typed, by its id. */
export async function rememberPasscode(passcode: string): Promise<void> {
  await changeSession({ passcode })
}

/** Goes on without a passcode. */
export async function forgetPasscode(): Promise<void> {
  await changeSession({ passcode: null })
}

/**
 * Signs somebody in, under a new word, so that nobody who knew the old one comes in with them; a guest is signed out.
 * Where and in what they pay follows from who they are again. `kept` takes a guest's cart and the passcode of the window
 * along. `looker` is the id of whoever of the merchant's looks with these eyes.
 *
 * Errors  throws `DiskFullError`, as all that changes a session.
 */
export async function enterShop(
  as: BuyerCode,
  things: 'kept' | 'left' = 'left',
  person: string | null = null,
  looker: string | null = null,
): Promise<void> {
  const before = await readSession()
  const isGuestsOwn = things === 'kept' && (before?.buyer ?? 'guest') === 'guest'
  const steppe = await getSteppe()
  requireRoom(steppe)
  if (before) await steppe.database.delete(shopSessions).where(eq(shopSessions.id, before.id))
  const jar = await cookies()
  jar.delete(COOKIE)
  const next = {
    ...NOBODY,
    buyer: as,
    ...{ person, looker },
    cart: isGuestsOwn ? (before?.cart ?? null) : null,
    passcode: things === 'kept' && as !== 'guest' ? (before?.passcode ?? null) : null,
  }
  if (as !== 'guest' || next.cart !== null || looker !== null) await beginSession(next)
}

/** Remembers where things are to be delivered and what to pay in; empty leaves it to the place. */
export async function chooseInShop(choice: {
  readonly deliverTo: string
  readonly currency: string
}): Promise<void> {
  const { deliverTo, currency } = choice
  await changeSession({
    deliverTo: PLACE_TEXT.test(deliverTo) ? deliverTo : null,
    currency: /^[A-Z]{3}$/.test(currency) ? currency : null,
  })
}

/** The session of this request; read once for all who ask. */
const readSession = cache(async (): Promise<Session | null> => {
  const word = (await cookies()).get(COOKIE)?.value ?? ''
  if (!WORD.test(word)) return null
  const { presence } = await freshSteppe()
  const id = digest(word)
  return LATELY.read(presence, id, () => findSession(id))
})

async function findSession(id: string): Promise<Session | null> {
  const { database } = await getSteppe()
  const found = await database.query.shopSessions.findFirst({ where: eq(shopSessions.id, id) })
  return found && found.at.getTime() > oldest() ? found : null
}

async function changeSession(change: Partial<Omit<Session, 'id' | 'at'>>): Promise<void> {
  // Within one action a session may have been begun or changed already: the word just given counts.
  const word = (await cookies()).get(COOKIE)?.value ?? ''
  const known = WORD.test(word) ? await findSession(digest(word)) : null
  if (!known) return beginSession({ ...NOBODY, ...change })
  const steppe = await getSteppe()
  requireRoom(steppe)
  await steppe.database
    .update(shopSessions)
    .set({ ...change, at: currentInstant() })
    .where(eq(shopSessions.id, known.id))
  // What the page shows follows from it, and no cookie tells the framework so.
  refresh()
}

async function beginSession(session: Omit<Session, 'id' | 'at'>): Promise<void> {
  const word = randomBytes(32).toString('base64url')
  const { database, ...steppe } = await getSteppe()
  requireRoom(steppe)
  await database.delete(shopSessions).where(lt(shopSessions.at, new Date(oldest())))
  await database.insert(shopSessions).values({ ...session, id: digest(word), at: currentInstant() })
  const jar = await cookies()
  jar.set(COOKIE, word, { ...KEPT, secure: isBehindTls(), maxAge: LIFETIME_DAYS * 24 * 60 * 60 })
}

function digest(word: string): string {
  return createHash('sha256').update(word).digest('hex')
}

function oldest(): number {
  return currentInstant().getTime() - LIFETIME_DAYS * DAY
}

/** Whose orders and uses a visitor's are: their account's, or those of a guest's window. */
export function ownerOf({ buyerContext, cart }: Pick<ShopVisitor, 'buyerContext' | 'cart'>) {
  const { buyer } = buyerContext
  return { account: buyer.kind === 'account' ? buyer.account : null, visitor: cart }
}
