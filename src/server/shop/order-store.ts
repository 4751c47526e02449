import 'server-only'

import type { PastPurchase } from '@/core/cart/cart'
import type { UnitPrice } from '@/core/catalogue/content'
import { wantedOf } from '@/core/catalogue/stock'
import { add, compare, type Decimal, ZERO } from '@/core/decimal/decimal'
import type { TaxDisplay } from '@/core/places/place'
import { startOfDay } from '@/core/predicates/instant'
import { getSettings } from '@/core/store/store'
import { and, desc, eq, isNull } from 'drizzle-orm'
import type { Transaction } from '../changes/commit-outcome'
import { requireRoom } from '../database/disk-room'
import { nextNumber } from '../database/number-series'
import { carts, orders, promotionUses } from '../database/selling-schema'
import type { Steppe } from '../engine/steppe'
import { moveStock } from '../stock/move-stock'
import { noticeStock } from '../stock/notice-stock'
import { readUses } from './promotion-uses'

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
  /** What a kilogram, litre, metre… of it costs, as it was shown; `null` where its content is not stated. */
  readonly perUnit: UnitPrice | null
  readonly net: Decimal
  readonly tax: Decimal
  readonly gross: Decimal
  /** The whole line before promotions. */
  readonly before: { readonly net: Decimal; readonly gross: Decimal }
  /** Names of the promotions that took something off. */
  readonly promotions: readonly string[]
  /** Given for nothing. */
  readonly isGift: boolean
}

interface OrderedSums {
  readonly net: Decimal
  readonly tax: Decimal
  readonly gross: Decimal
}

/** An order at the figures of its moment: nothing in it is computed again. */
export interface OrderDocument {
  readonly currency: string
  readonly digits: number
  /** Whether the buyer was shown prices with tax, without, or both. */
  readonly display: TaxDisplay
  readonly buyer: string
  readonly email: string
  readonly address: OrderAddress
  readonly payment: string
  readonly lines: readonly OrderedLine[]
  readonly goods: OrderedSums
  readonly delivery: OrderedSums
  /** What was added or, below zero, taken off for how it was paid. */
  readonly paymentCharge: OrderedSums
  /** What was used, as it was called then. */
  readonly promotions: readonly {
    readonly id: string
    readonly name: string
    readonly saving: Decimal
    readonly uses: number
  }[]
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
  /** The last order of the account when the cart was looked at. */
  readonly seenLast: number | null
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
  { owner, document, at, seenLast }: PlacingOrder,
): Promise<number> {
  const { account, visitor } = owner
  // Whoever places an order waits here for the one before: what follows is counted by one at a time.
  const number = await nextNumber(transaction, 'order')
  const taken = await transaction.delete(carts).where(eq(carts.id, visitor)).returning({ id: carts.id })
  if (taken.length === 0) throw new NotPlaced({ ok: false, code: 'cart-gone' })
  if (account !== null && (await lastOrderOf(transaction, account)) !== seenLast)
    throw new NotPlaced({ ok: false, code: 'ordered-meanwhile' })
  await requireUses(steppe, transaction, owner, document, at)
  await transaction.insert(orders).values({ number, account, visitor, at, document })
  await reserveStock(steppe, transaction, document, { at, order: number })
  const used = document.promotions.map(({ id, uses }) => ({
    ...{ order: number, promotion: id, account, visitor, at, uses },
  }))
  if (used.length > 0) await transaction.insert(promotionUses).values(used)
  return number
}

async function reserveStock(
  { prepared }: Steppe,
  transaction: Transaction,
  { lines, buyer }: OrderDocument,
  { at, order }: { readonly at: Date; readonly order: number },
): Promise<void> {
  const note = { at, order, author: buyer, note: `Order ${order}` }
  const left = await moveStock(transaction, 'reserved', lines, note)
  for (const [variant, available] of left) {
    const product = prepared?.store.variant.get(variant)?.product ?? ''
    if (compare(available, ZERO) >= 0 || prepared?.store.product.get(product)?.backOrder !== false) continue
    throw new NotPlaced({
      ok: false,
      code: 'short',
      variant,
      available: add(available, wantedOf(lines, variant)),
    })
  }
}

/** Number of the last order of an account; `null` where there is none. */
export async function lastOrderOf(
  database: Pick<Transaction, 'select'>,
  account: string | null,
): Promise<number | null> {
  if (account === null) return null
  const [last] = await database
    .select({ number: orders.number })
    .from(orders)
    .where(eq(orders.account, account))
    .orderBy(desc(orders.number))
    .limit(1)
  return last?.number ?? null
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

/** The newest first. */
export async function ordersOf({ database }: Steppe, owner: OrderOwner): Promise<readonly Order[]> {
  if (owner.account === null && owner.visitor === null) return []
  const mine =
    owner.account === null
      ? and(isNull(orders.account), eq(orders.visitor, owner.visitor as string))
      : eq(orders.account, owner.account)
  const rows = await database.select().from(orders).where(mine).orderBy(desc(orders.number))
  return rows.map(({ number, at, document }) => ({ number, at, document: read(document as StoredDocument) }))
}

/** A document as it was written; the first ones did not say everything. */
type Later = 'perUnit' | 'before' | 'promotions' | 'isGift'
type StoredDocument = Omit<OrderDocument, 'display' | 'lines' | 'paymentCharge' | 'promotions'> &
  Partial<Pick<OrderDocument, 'display' | 'paymentCharge' | 'promotions'>> & {
    readonly lines: readonly (Omit<OrderedLine, Later> & Partial<Pick<OrderedLine, Later>>)[]
  }

const NOTHING = { net: ZERO, tax: ZERO, gross: ZERO }

function read(document: StoredDocument): OrderDocument {
  return {
    ...document,
    display: document.display ?? 'net',
    paymentCharge: document.paymentCharge ?? NOTHING,
    promotions: document.promotions ?? [],
    lines: document.lines.map((line) => ({
      ...line,
      perUnit: line.perUnit ?? null,
      before: line.before ?? { net: line.net, gross: line.gross },
      promotions: line.promotions ?? [],
      isGift: line.isGift ?? false,
    })),
  }
}

/** What an account has bought, for limits over a period. Nobody knows what a guest bought elsewhere. */
export async function pastPurchases(steppe: Steppe, owner: OrderOwner): Promise<readonly PastPurchase[]> {
  return (await ordersOf(steppe, owner)).flatMap(({ at, document }) =>
    document.lines.map(({ variant, quantity }) => ({ variant, quantity, at: at.getTime() })),
  )
}
