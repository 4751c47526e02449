import 'server-only'

import type { CartLineWanted } from '@/core/cart/cart'
import { add } from '@/core/decimal/decimal'
import { findRights } from '@/core/engine/rules/find-rights'
import { getSteppe } from '@/server/engine/steppe'
import { cartOfVisitor, type ShopVisitor } from '@/server/session/shop-session'
import { readCart, writeCart } from '@/server/shop/cart-store'

/** Whether a visitor may buy a variant, by its id. */
export function mayBuy({ prepared, pricingContext }: ShopVisitor, variant: string): boolean {
  return findRights(prepared, pricingContext, prepared.index.numberOf.get(variant) as number).buy
}

/** Whether two lines are one: the same with the same extras. */
export function isSame(left: CartLineWanted, right: CartLineWanted): boolean {
  return left.variant === right.variant && left.extras.join() === right.extras.join()
}

/** Puts lines in; what is there already becomes more. Errors  throws `DiskFullError`. */
export async function put(
  visitor: ShopVisitor,
  wanted: readonly CartLineWanted[],
): Promise<readonly CartLineWanted[]> {
  const steppe = await getSteppe()
  const id = await cartOfVisitor()
  const lines = [...(await readCart(steppe, visitor.prepared, id))]
  for (const line of wanted) {
    const at = lines.findIndex((each) => isSame(each, line))
    if (at < 0) lines.push(line)
    else lines[at] = { ...line, quantity: add((lines[at] as CartLineWanted).quantity, line.quantity) }
  }
  await writeCart(steppe, id, lines)
  return lines
}
