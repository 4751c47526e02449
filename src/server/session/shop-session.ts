import 'server-only'

import { type BuyerCode, isBuyerCode } from '@/core/buyers/buyer-code'
import type { PreparedStore } from '@/core/engine/prepared-store'
import type { Situation } from '@/core/engine/situation'
import type { Standpoint } from '@/core/engine/standpoint'
import { PLACE_TEXT, resolveVantage, type Vantage } from '@/core/engine/vantage'
import { cookies } from 'next/headers'
import { randomUUID } from 'node:crypto'
import { situationOf } from '../engine/look-from'
import { currentInstant } from '@/server/clock'

/** What the shop remembers of a visitor, each in a cookie of its own. */
const COOKIES = {
  as: 'steppe-shop-as',
  deliverTo: 'steppe-shop-to',
  currency: 'steppe-shop-paying',
  passcode: 'steppe-shop-word',
} as const
/** Whose cart it is. */
const CART = 'steppe-shop-cart'

const KEPT = { path: '/', httpOnly: true, sameSite: 'lax' } as const

/** Who is in the shop, from where, and what holds for them. */
export interface ShopVisitor {
  readonly prepared: PreparedStore
  readonly vantage: Vantage
  readonly standpoint: Standpoint
  readonly situation: Situation
  readonly as: BuyerCode
  readonly name: string
  /** Of their cart; `null` before anything was put in. */
  readonly cart: string | null
}

/** The visitor of this request: whoever signed in, else a guest. Somebody who is gone is a guest too. */
export async function shopVisitor(prepared: PreparedStore): Promise<ShopVisitor> {
  const jar = await cookies()
  const text = (name: string) => jar.get(name)?.value ?? ''
  const as = text(COOKIES.as)
  const deliverTo = text(COOKIES.deliverTo)
  const currency = text(COOKIES.currency)
  const vantage: Vantage = {
    as: isBuyerCode(as) ? as : 'guest',
    buying: 1,
    channel: null,
    deliverTo: PLACE_TEXT.test(deliverTo) ? deliverTo : null,
    currency: /^[A-Z]{3}$/.test(currency) ? currency : null,
    on: null,
  }
  const resolved = resolveVantage(prepared.store, vantage, currentInstant().getTime())
  const word = text(COOKIES.passcode).toLowerCase()
  const given = [...prepared.store.passcode.values()].find((each) => each.word.toLowerCase() === word)
  const standpoint = { ...resolved.standpoint, passcode: given?.id ?? null }
  return {
    prepared,
    vantage,
    standpoint,
    situation: situationOf(prepared, standpoint),
    as: resolved.as,
    name: resolved.buyerName,
    cart: jar.get(CART)?.value ?? null,
  }
}

/** The id of the visitor's cart, given to them when they put the first thing in. */
export async function cartOfVisitor(): Promise<string> {
  const jar = await cookies()
  const known = jar.get(CART)?.value
  if (known) return known
  const id = randomUUID()
  jar.set(CART, id, KEPT)
  return id
}

/** Remembers a passcode that was typed. */
export async function rememberPasscode(word: string): Promise<void> {
  const jar = await cookies()
  jar.set(COOKIES.passcode, word, KEPT)
}

/**
 * Signs somebody in; a guest is signed out. Where and in what they pay follows from who they are again. `kept` takes a
 * guest's cart and the passcode of the window along.
 */
export async function enterShop(as: BuyerCode, things: 'kept' | 'left' = 'left'): Promise<void> {
  const jar = await cookies()
  const isGuestsOwn = things === 'kept' && !jar.has(COOKIES.as)
  const isPasscodeKept = things === 'kept' && as !== 'guest'
  for (const name of Object.values(COOKIES))
    if (name !== COOKIES.passcode || !isPasscodeKept) jar.delete(name)
  if (!isGuestsOwn) jar.delete(CART)
  if (as !== 'guest') jar.set(COOKIES.as, as, KEPT)
}

/** Remembers where things are to be delivered and what to pay in; empty leaves it to the place. */
export async function chooseInShop(choice: {
  readonly deliverTo: string
  readonly currency: string
}): Promise<void> {
  const jar = await cookies()
  for (const part of ['deliverTo', 'currency'] as const) {
    if (choice[part] === '') jar.delete(COOKIES[part])
    else jar.set(COOKIES[part], choice[part], KEPT)
  }
}
