import 'server-only'

import type { BuyerReference } from '@/core/buyers/buyer'
import { type BuyerCode, buyerName, findBuyer, isBuyerCode } from '@/core/buyers/buyer-code'
import type { PreparedStore } from '@/core/engine/prepared-store'
import { cookies } from 'next/headers'

const SHOP_COOKIE = 'steppe-shop-as'

/** Who is in the shop. */
export interface ShopVisitor {
  readonly buyer: BuyerReference
  readonly as: BuyerCode
  readonly name: string
}

/** The visitor of this request: whoever signed in, else a guest. Somebody who is gone is a guest too. */
export async function shopVisitor({ store }: PreparedStore): Promise<ShopVisitor> {
  const text = (await cookies()).get(SHOP_COOKIE)?.value ?? ''
  const as: BuyerCode = isBuyerCode(text) ? text : 'guest'
  const buyer = findBuyer(store.group, store.account, as)
  if (!buyer) return { buyer: { kind: 'guest' }, as: 'guest', name: 'Guest' }
  return { buyer, as, name: buyerName(store.group, store.account, buyer) }
}

/** Signs somebody in; a guest is signed out. */
export async function enterShop(as: BuyerCode): Promise<void> {
  const jar = await cookies()
  if (as === 'guest') jar.delete(SHOP_COOKIE)
  else jar.set(SHOP_COOKIE, as, { path: '/', httpOnly: true, sameSite: 'lax' })
}
