import 'server-only'

import type { PastPurchase } from '@/core/cart/cart'
import type { UnitPrice } from '@/core/catalogue/content'
import { type Decimal, subtract, sum, ZERO } from '@/core/decimal/decimal'
import type { TaxDisplay } from '@/core/places/place'
import { and, desc, eq, isNull } from 'drizzle-orm'
import { DiskFullError, requireRoom } from '../database/disk-room'
import { getSettings } from '@/core/store/store'
import { carts, orders, promotionUses } from '../database/schema'
import { commit, SHOP_AUTHOR } from '../changes/commit'
import type { CommitNote, Transaction } from '../changes/commit-outcome'
import type { ChangeRequest } from '../changes/weigh'
import { liveView, revisionOf, type View } from '../views/view'
import { type Steppe } from '../engine/steppe'
import { startOfDay } from '@/core/predicates/instant'
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

const FIRST_NUMBER = 10_001

/**
 * Keeps an order, gives it the next number, empties the cart and lowers the stock that is counted, all or nothing,
 * forced to disk.
 *
 * Errors  `null` when the cart is gone: it was ordered a moment ago, from another window or by a second click; the name
 *         of a promotion that was used for the last time meanwhile, with nothing ordered. Throws `DiskFullError`.
 */
export async function placeOrder(
  steppe: Steppe,
  owner: OrderOwner & { readonly visitor: string },
  document: OrderDocument,
  at: Date,
): Promise<number | { readonly usedUp: string } | null> {
  requireRoom(steppe)
  let number = FIRST_NUMBER
  const keep = async (transaction: Transaction) => {
    number = await keepOrder(steppe, transaction, owner, document, at)
  }
  try {
    if (!(await lowerStock(steppe, document, { at, alongside: keep }))) {
      await steppe.database.transaction(keep)
      steppe.sync()
    }
    return number
  } catch (error) {
    if (error instanceof CartGone) return null
    if (error instanceof UsedUp) return { usedUp: error.message }
    throw error
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
      throw new UsedUp(name)
  }
}

class CartGone extends Error {}
/** The message is the promotion's name. */
class UsedUp extends Error {}

async function keepOrder(
  steppe: Steppe,
  transaction: Transaction,
  { account, visitor }: OrderOwner & { readonly visitor: string },
  document: OrderDocument,
  at: Date,
): Promise<number> {
  const taken = await transaction.delete(carts).where(eq(carts.id, visitor)).returning({ id: carts.id })
  if (taken.length === 0) throw new CartGone()
  const last = await transaction.query.orders.findFirst({ orderBy: desc(orders.number) })
  const number = (last?.number ?? FIRST_NUMBER - 1) + 1
  await requireUses(steppe, transaction, { account, visitor }, document, at)
  await transaction.insert(orders).values({ number, account, visitor, at, document })
  const used = document.promotions.map(({ id, uses }) => ({
    ...{ order: number, promotion: id, account, visitor, at, uses },
  }))
  if (used.length > 0) await transaction.insert(promotionUses).values(used)
  return number
}

/**
 * Takes what was ordered out of the stock, below zero where it is on back order, as a change set the merchant finds in
 * the history.
 *
 * Errors  `false` when no stock of it is counted, or the store refuses: an order is kept all the same.
 */
async function lowerStock(
  steppe: Steppe,
  document: OrderDocument,
  { at, alongside }: Pick<CommitNote, 'at' | 'alongside'>,
): Promise<boolean> {
  const note = {
    author: SHOP_AUTHOR,
    note: `Order of ${document.buyer}`,
    keepsRevisions: true,
    at,
    alongside,
  }
  // A merchant may be at the same record at this moment: then what they leave is lowered.
  for (;;) {
    const live = liveView(steppe)
    const requests = stockRequests(live, document)
    if (requests.length === 0) return false
    const outcome = await commit(live, requests, note)
    if (outcome.ok) return true
    if (outcome.code === 'disk-full') throw new DiskFullError(outcome.freeBytes)
    if (outcome.code !== 'stale') return false
  }
}

function stockRequests(live: View, { lines }: OrderDocument): readonly ChangeRequest[] {
  const { store } = live.prepared
  return [...new Set(lines.map(({ variant }) => variant))].flatMap((id): readonly ChangeRequest[] => {
    const variant = store.variant.get(id)
    if (!variant || variant.stock === null) return []
    const ordered = sum(lines.filter((line) => line.variant === id).map(({ quantity }) => quantity))
    const after = { ...variant, stock: subtract(variant.stock, ordered) }
    return [{ kind: 'variant', id, seen: revisionOf(live, 'variant', id), after }]
  })
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
