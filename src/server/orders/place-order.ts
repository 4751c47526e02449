import 'server-only'

import { takesBackOrders, wantedOf } from '@/core/catalogue/stock'
import { add, compare, type Decimal, ZERO } from '@/core/decimal/decimal'
import type { OrderDocument } from '@/core/order/order'
import { startOfDay } from '@/core/predicates/instant'
import { getSettings } from '@/core/store/store'
import { eq } from 'drizzle-orm'
import type { Transaction } from '../changes/commit-outcome'
import { requireRoom } from '../database/disk-room'
import { nextNumber } from '../database/number-series'
import { carts, orders, promotionUses } from '../database/selling-schema'
import type { Steppe } from '../engine/steppe'
import { merchantAddress, queueMail, wakeMails } from '../mails/queue-mail'
import { readUses } from '../shop/promotion-uses'
import { moveStock } from '../stock/move-stock'
import { noticeStock } from '../stock/notice-stock'
import { lastOrderOf, type OrderOwner } from './order-rows'

/** An order is placed, or why not: then nothing of it is. */
export type PlacedOrder =
  | { readonly ok: true; readonly number: number }
  /** The cart was ordered a moment ago, from another window or by a second click. */
  | { readonly ok: false; readonly code: 'cart-gone' }
  /** A promotion was used for the last time meanwhile. */
  | { readonly ok: false; readonly code: 'used-up'; readonly promotion: string }
  /** Somebody was quicker: fewer are left than are wanted, and no more may be ordered. `variant` is an id. */
  | { readonly ok: false; readonly code: 'short'; readonly variant: string; readonly available: Decimal }
  /** The account has ordered since the cart was looked at, so that its limits over days have to be looked at again. */
  | { readonly ok: false; readonly code: 'ordered-meanwhile' }

/** What an order is placed with beside its figures. */
export interface PlacingOrder {
  readonly owner: OrderOwner & { readonly visitor: string }
  readonly document: OrderDocument
  readonly at: Date
  /** The last order of the account when the cart was looked at; left out where nothing follows from it. */
  readonly seenLast?: number | null
  /**
   * Takes what the order is made from, in its transaction, so that it is ordered once; `false` where it is gone. Left out it is the
   * cart of the visitor.
   */
  readonly claim?: (transaction: Transaction, order: number) => Promise<boolean>
  /** Whether it was promised, so that it is taken though less is left than it needs. */
  readonly isPromised?: boolean
}

/**
 * Keeps an order, gives it the next number, empties the cart, and promises it the stock and the uses of promotions it needs: all
 * or nothing, forced to disk. Nothing of the configuration changes.
 *
 * Errors  returned as `PlacedOrder` says. Throws `DiskFullError`.
 */
export async function placeOrder(steppe: Steppe, placing: PlacingOrder): Promise<PlacedOrder> {
  requireRoom(steppe)
  try {
    const number = await steppe.database.transaction((transaction) => keepOrder(steppe, transaction, placing))
    steppe.sync()
    wakeMails(steppe)
    await noticeStock(
      steppe,
      placing.document.lines.map(({ variant }) => variant),
    )
    return { ok: true, number }
  } catch (error) {
    if (error instanceof NotPlaced) return error.because
    throw error
  }
}

/** Calls the whole transaction off. */
class NotPlaced extends Error {
  constructor(readonly because: Exclude<PlacedOrder, { readonly ok: true }>) {
    super(because.code)
  }
}

async function keepOrder(
  steppe: Steppe,
  transaction: Transaction,
  { owner, document, at, seenLast, claim, isPromised = false }: PlacingOrder,
): Promise<number> {
  const { account, visitor } = owner
  // Whoever places an order waits here for the one before: what follows is counted by one at a time.
  const number = await nextNumber(transaction, 'order')
  const isTaken = await (claim ?? takeCart(visitor))(transaction, number)
  if (!isTaken) throw new NotPlaced({ ok: false, code: 'cart-gone' })
  if (seenLast !== undefined && account !== null && (await lastOrderOf(transaction, account)) !== seenLast)
    throw new NotPlaced({ ok: false, code: 'ordered-meanwhile' })
  await requireUses(steppe, transaction, owner, document, at)
  await transaction.insert(orders).values({
    ...{ number, account, visitor, at, document },
    state: 'placed',
    version: 0,
    buyer: document.buyer.toLowerCase(),
    currency: document.currency,
    due: document.total.gross,
  })
  await reserveStock(steppe, transaction, document, { at, order: number, isPromised })
  await queueMail(
    transaction,
    { to: document.email, account, at },
    { kind: 'order-placed', order: number, to: 'buyer' },
  )
  await queueMail(
    transaction,
    { to: merchantAddress(steppe), account: null, at },
    { kind: 'order-placed', order: number, to: 'merchant' },
  )
  const used = document.promotions.map(({ id, uses }) => ({
    ...{ order: number, promotion: id, account, visitor, at, uses },
  }))
  if (used.length > 0) await transaction.insert(promotionUses).values(used)
  return number
}

function takeCart(visitor: string) {
  return async (transaction: Transaction): Promise<boolean> => {
    const taken = await transaction.delete(carts).where(eq(carts.id, visitor)).returning({ id: carts.id })
    return taken.length > 0
  }
}

async function reserveStock(
  { prepared }: Steppe,
  transaction: Transaction,
  { lines, buyer }: OrderDocument,
  { at, order, isPromised }: { readonly at: Date; readonly order: number; readonly isPromised: boolean },
): Promise<void> {
  const note = { at, order, author: buyer, note: `Order ${order}` }
  const left = await moveStock(transaction, 'reserved', lines, note)
  for (const [variant, available] of isPromised ? [] : left) {
    if (compare(available, ZERO) >= 0 || !prepared || takesBackOrders(prepared.store, variant)) continue
    throw new NotPlaced({
      ok: false,
      code: 'short',
      variant,
      available: add(available, wantedOf(lines, variant)),
    })
  }
}

/** Of two last uses never both win: they are counted in the transaction that keeps the order. */
async function requireUses(
  { prepared }: Steppe,
  transaction: Transaction,
  owner: OrderOwner,
  { promotions }: OrderDocument,
  at: Date,
): Promise<void> {
  if (promotions.length === 0 || !prepared) return
  const { store } = prepared
  const used = await readUses(transaction, owner, startOfDay(at, getSettings(store).timeZone))
  for (const { id, name, uses } of promotions) {
    const limits = store.promotion.get(id)?.uses
    const before = used[id] ?? { total: 0, byBuyer: 0, today: 0 }
    const isOver = (limit: number | null | undefined, count: number) =>
      typeof limit === 'number' && count + uses > limit
    if (
      isOver(limits?.total, before.total) ||
      isOver(limits?.perBuyer, before.byBuyer) ||
      isOver(limits?.perDay, before.today)
    )
      throw new NotPlaced({ ok: false, code: 'used-up', promotion: name })
  }
}
