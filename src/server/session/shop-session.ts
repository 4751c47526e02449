import 'server-only'

import { type BuyerCode, isBuyerCode } from '@/core/buyers/buyer-code'
import type { PreparedStore } from '@/core/engine/prepared-store'
import type { Situation } from '@/core/engine/situation'
import type { Standpoint } from '@/core/engine/standpoint'
import { PLACE_TEXT, resolveVantage, type Vantage } from '@/core/engine/vantage'
import { cookies } from 'next/headers'
import { situationOf } from '../engine/look-from'

/** What the shop remembers of a visitor, each in a cookie of its own. */
const COOKIES = { as: 'steppe-shop-as', deliverTo: 'steppe-shop-to', currency: 'steppe-shop-paying' } as const

/** Who is in the shop, from where, and what holds for them. */
export interface ShopVisitor {
  readonly prepared: PreparedStore
  readonly vantage: Vantage
  readonly standpoint: Standpoint
  readonly situation: Situation
  readonly as: BuyerCode
  readonly name: string
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
  const resolved = resolveVantage(prepared.store, vantage, Date.now())
  return {
    prepared,
    vantage,
    standpoint: resolved.standpoint,
    situation: situationOf(prepared, resolved.standpoint),
    as: resolved.as,
    name: resolved.buyerName,
  }
}

/** Signs somebody in; a guest is signed out. Where and in what they pay follows from who they are again. */
export async function enterShop(as: BuyerCode): Promise<void> {
  const jar = await cookies()
  for (const name of Object.values(COOKIES)) jar.delete(name)
  if (as !== 'guest') jar.set(COOKIES.as, as, { path: '/', httpOnly: true, sameSite: 'lax' })
}

/** Remembers where things are to be delivered and what to pay in; empty leaves it to the place. */
export async function chooseInShop(choice: {
  readonly deliverTo: string
  readonly currency: string
}): Promise<void> {
  const jar = await cookies()
  for (const part of ['deliverTo', 'currency'] as const) {
    if (choice[part] === '') jar.delete(COOKIES[part])
    else jar.set(COOKIES[part], choice[part], { path: '/', httpOnly: true, sameSite: 'lax' })
  }
}
