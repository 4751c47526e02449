import 'server-only'

import type { PastPurchase } from '@/core/cart/cart'
import type { Decimal } from '@/core/decimal/decimal'
import { and, desc, eq, isNull } from 'drizzle-orm'
import { carts, orders } from '../database/schema'
import type { Steppe } from '../engine/steppe'

/** An address typed at the checkout, or chosen. */
export interface OrderAddress {
  readonly name: string
  readonly street: string
  readonly postcode: string
  readonly city: string
  readonly state: string
  readonly country: string
}

interface OrderedLine {
  readonly variant: string
  readonly sku: string
  readonly name: string
  readonly quantity: Decimal
  readonly extras: readonly string[]
  readonly unit: { readonly net: Decimal; readonly gross: Decimal }
  readonly net: Decimal
  readonly tax: Decimal
  readonly gross: Decimal
}

interface OrderedSums {
  readonly net: Decimal
  readonly tax: Decimal
  readonly gross: Decimal
}

/** An order at the figures of its moment: nothing in it is reckoned again. */
export interface OrderDocument {
  readonly currency: string
  readonly digits: number
  readonly buyer: string
  readonly email: string
  readonly address: OrderAddress
  readonly payment: string
  readonly lines: readonly OrderedLine[]
  readonly goods: OrderedSums
  readonly delivery: OrderedSums
  readonly taxes: readonly {
    readonly name: string
    readonly percent: Decimal
    readonly on: Decimal
    readonly amount: Decimal
  }[]
  readonly total: OrderedSums
  readonly untaxed: 'certificate' | 'reverse-charge' | null
}

export interface Order {
  readonly number: number
  readonly at: Date
  readonly document: OrderDocument
}

/** Whose orders: an account's, or those of a guest's window. */
export interface OrderOwner {
  /** Id; `null` for a guest. */
  readonly account: string | null
  readonly visitor: string | null
}

const FIRST_NUMBER = 10_001

/**
 * Keeps an order, gives it the next number and empties the cart, all or nothing, forced to disk.
 *
 * Errors  `null` when the cart is gone: it was ordered a moment ago, from another window or by a second click.
 */
export async function placeOrder(
  steppe: Steppe,
  { account, visitor }: OrderOwner & { readonly visitor: string },
  document: OrderDocument,
  at: Date,
): Promise<number | null> {
  const number = await steppe.database.transaction(async (transaction) => {
    const taken = await transaction.delete(carts).where(eq(carts.id, visitor)).returning({ id: carts.id })
    if (taken.length === 0) return null
    const last = await transaction.query.orders.findFirst({ orderBy: desc(orders.number) })
    const next = (last?.number ?? FIRST_NUMBER - 1) + 1
    await transaction.insert(orders).values({ number: next, account, visitor, at, document })
    return next
  })
  steppe.sync()
  return number
}

/** The newest first. */
export async function ordersOf({ database }: Steppe, owner: OrderOwner): Promise<readonly Order[]> {
  if (owner.account === null && owner.visitor === null) return []
  const mine =
    owner.account === null
      ? and(isNull(orders.account), eq(orders.visitor, owner.visitor as string))
      : eq(orders.account, owner.account)
  const rows = await database.select().from(orders).where(mine).orderBy(desc(orders.number))
  return rows.map(({ number, at, document }) => ({ number, at, document: document as OrderDocument }))
}

/** What an account has bought, for limits over a period. Nobody knows what a guest bought elsewhere. */
export async function pastPurchases(steppe: Steppe, owner: OrderOwner): Promise<readonly PastPurchase[]> {
  return (await ordersOf(steppe, owner)).flatMap(({ at, document }) =>
    document.lines.map(({ variant, quantity }) => ({ variant, quantity, at: at.getTime() })),
  )
}
