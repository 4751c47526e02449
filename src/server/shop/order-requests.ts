import 'server-only'

import type { CartLineWanted } from '@/core/cart/cart'
import { type Decimal } from '@/core/decimal/decimal'
import type { OrderAddress } from '@/core/order/order'
import type { Choice } from '@/core/promotions/facts'
import { and, desc, eq, sql } from 'drizzle-orm'
import Joi from 'joi'
import type { Transaction } from '../changes/commit-outcome'
import { requireRoom } from '../database/disk-room'
import { carts, orderRequests } from '../database/selling-schema'
import type { Steppe } from '../engine/steppe'
import { queueMail, wakeMails } from '../mails/queue-mail'
import { ADDRESS, amount, list, object, parsed, text } from '../orders/order-shape'

/** What somebody wants to order, and may not without somebody else's approval. */
export interface WantedOrder {
  readonly lines: readonly CartLineWanted[]
  readonly codes: readonly string[]
  readonly choices: Readonly<Record<string, Choice>>
  readonly payment: 'card' | 'terms'
  readonly address: OrderAddress
  readonly reference: string
  readonly currency: string
  /** What it came to with tax when it was asked for. */
  readonly total: Decimal
}

export interface OrderRequest {
  readonly id: number
  readonly account: string
  /** E-mail address and name of who wants to order. */
  readonly person: string
  readonly name: string
  readonly at: Date
  readonly wanted: WantedOrder
  readonly state: 'waiting' | 'ordered' | 'turned-down'
  readonly decidedBy: string | null
  readonly reason: string
  readonly order: number | null
}

const WANTED = object({
  lines: list(object({ variant: text, quantity: amount, extras: list(text) })),
  codes: list(text),
  choices: Joi.object().pattern(Joi.string(), Joi.valid('taken', 'left')).required(),
  payment: Joi.valid('card', 'terms').required(),
  address: ADDRESS,
  reference: text,
  currency: text,
  total: amount,
})

const MOST_SHOWN = 50

function toRequest(row: typeof orderRequests.$inferSelect): OrderRequest {
  return { ...row, wanted: parsed<WantedOrder>(WANTED, row.wanted, 'order that waits for approval') }
}

/** Orders of an account that waited for approval, or wait, the latest first. */
export async function listRequests(
  { database }: Pick<Steppe, 'database'>,
  account: string,
): Promise<readonly OrderRequest[]> {
  const rows = await database
    .select()
    .from(orderRequests)
    .where(eq(orderRequests.account, account))
    .orderBy(desc(orderRequests.id))
    .limit(MOST_SHOWN)
  return rows.map(toRequest)
}

/** Errors  `null` for none of the number, and for one of another account; any account where none is named. */
export async function findRequest(
  { database }: Pick<Steppe, 'database'>,
  id: number,
  account?: string,
): Promise<OrderRequest | null> {
  if (!Number.isSafeInteger(id)) return null
  const [row] = await database
    .select()
    .from(orderRequests)
    .where(
      and(eq(orderRequests.id, id), account === undefined ? undefined : eq(orderRequests.account, account)),
    )
  return row ? toRequest(row) : null
}

/** Puts a cart before those who approve: it is empty then. Resolves to `null` where it was gone already. Errors  throws `DiskFullError`. */
export async function askApproval(
  steppe: Steppe,
  wanted: WantedOrder,
  by: {
    readonly account: string
    readonly person: string
    readonly name: string
    readonly cart: string
    readonly at: Date
    /** Addresses of those who approve. */
    readonly approvers: readonly string[]
  },
): Promise<number | null> {
  requireRoom(steppe)
  const { account, person, name, cart, at, approvers } = by
  const id = await steppe.database.transaction(async (transaction) => {
    const taken = await transaction.delete(carts).where(eq(carts.id, cart)).returning({ id: carts.id })
    if (taken.length === 0) return null
    const [row] = await transaction
      .insert(orderRequests)
      .values({ account, person, name, at, wanted, state: 'waiting' })
      .returning({ id: orderRequests.id })
    if (!row) return null
    for (const to of approvers)
      await queueMail(transaction, { to, account, at }, { kind: 'approval', request: row.id, said: 'asked' })
    return row.id
  })
  steppe.sync()
  wakeMails(steppe)
  return id
}

interface Decision {
  readonly by: string
  readonly at: Date
}

/** Marks one as ordered in the transaction of its order; `false` where somebody decided already. */
export function claimRequest({ id, account, person }: OrderRequest, { by, at }: Decision) {
  return async (transaction: Transaction, order: number): Promise<boolean> => {
    const isOurs = await decide(transaction, id, { state: 'ordered', decidedBy: by, decidedAt: at, order })
    if (isOurs)
      await queueMail(
        transaction,
        { to: person, account, at },
        { kind: 'approval', request: id, said: 'ordered' },
      )
    return isOurs
  }
}

/** Turns one down. Resolves to `false` where somebody decided already. Errors  throws `DiskFullError`. */
export async function turnDown(
  steppe: Steppe,
  { id, account, person }: OrderRequest,
  { by, at, reason }: Decision & { readonly reason: string },
): Promise<boolean> {
  requireRoom(steppe)
  const isDone = await steppe.database.transaction(async (transaction) => {
    const isOurs = await decide(transaction, id, {
      state: 'turned-down',
      decidedBy: by,
      decidedAt: at,
      reason,
    })
    if (isOurs)
      await queueMail(
        transaction,
        { to: person, account, at },
        { kind: 'approval', request: id, said: 'turned-down' },
      )
    return isOurs
  })
  if (isDone) {
    steppe.sync()
    wakeMails(steppe)
  }
  return isDone
}

async function decide(
  transaction: Transaction,
  id: number,
  change: Partial<typeof orderRequests.$inferInsert>,
): Promise<boolean> {
  const rows = await transaction
    .update(orderRequests)
    .set(change)
    .where(and(eq(orderRequests.id, id), eq(orderRequests.state, 'waiting')))
    .returning({ id: orderRequests.id })
  return rows.length > 0
}

/** How many orders of an account wait for approval. */
export async function countRequests(
  { database }: Pick<Steppe, 'database'>,
  account: string,
): Promise<number> {
  const [row] = await database
    .select({ count: sql<number>`count(*)::int` })
    .from(orderRequests)
    .where(and(eq(orderRequests.account, account), eq(orderRequests.state, 'waiting')))
  return row?.count ?? 0
}
