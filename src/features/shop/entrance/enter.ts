import 'server-only'

import { findGate } from '@/core/engine/rules/find-rights'
import { shopVisitor, type ShopVisitor } from '@/server/session/shop-session'
import { redirect } from 'next/navigation'

/** The visitor of a page of the shop; whoever the gate keeps out is led to it, and from there to the page they wanted. */
export async function enterShopPage(wanted = ''): Promise<ShopVisitor> {
  const visitor = await shopVisitor()
  if (isOutside(visitor))
    redirect(wanted === '' ? '/shop/gate' : `/shop/gate?${new URLSearchParams({ back: wanted })}`)
  return visitor
}

/** Whether the gate keeps a visitor from seeing anything at all. */
export function isOutside({ pricingContext }: ShopVisitor): boolean {
  return !pricingContext.terms.passcode?.isReview && findGate(pricingContext)?.rights.see === false
}
