import 'server-only'

import type { OrderDocument } from '@/core/order/order'
import type { OrderEvent, OrderState } from '@/core/order/order-event'
import { and, asc, desc, eq, gte, inArray, isNull, lt, ne, or, type SQL, sql } from 'drizzle-orm'
import { ofOwnBuyers } from '../session/own-buyers'
import type { Database } from '../database/database'
import { orderEvents, orders } from '../database/selling-schema'
import { readEvent, readOrder } from './order-shape'

/** Whose orders: an account's, or those of a guest's window. */
export interface OrderOwner {
  /** Id; `null` for a guest. */
  readonly account: string | null
  readonly visitor: string | null
}

export interface Order {
  readonly number: number
  /** Id; `null` for a guest. */
  readonly account: string | null
  readonly at: Date
  readonly document: OrderDocument
  readonly events: readonly OrderEvent[]
}

/** An order as a list tells of it. */
export interface OrderHeadline {
  readonly number: number
  readonly account: string | null
  readonly at: Date
  readonly buyer: string
  readonly state: OrderState
  readonly currency: string
  readonly digits: number
  readonly lines: number
  /** With tax, after what was credited. */
  readonly due: string
}

type Reader = Pick<Database, 'select'>

/** Only theirs; `null` where nobody is meant. */
function ownedBy({ account, visitor }: OrderOwner): SQL | undefined | null {
  if (account !== null) return eq(orders.account, account)
  return visitor === null ? null : and(isNull(orders.account), eq(orders.visitor, visitor))
}

/** Number of the last order of an account; `null` where there is none. */
export async function lastOrderOf(database: Reader, account: string | null): Promise<number | null> {
  if (account === null) return null
  const [last] = await database
    .select({ number: orders.number })
    .from(orders)
    .where(eq(orders.account, account))
    .orderBy(desc(orders.number))
    .limit(1)
  return last?.number ?? null
}

/** An order with what was done with it. Errors  `null` where there is none of the number, or it is not the owner's. */
export async function findOrder(
  database: Reader,
  number: number,
  owner: OrderOwner | 'any' = 'any',
): Promise<Order | null> {
  const mine = owner === 'any' ? ofOwnBuyers(orders.account) : ownedBy(owner)
  if (mine === null || !Number.isSafeInteger(number)) return null
  const [row] = await database
    .select()
    .from(orders)
    .where(and(eq(orders.number, number), mine))
  if (!row) return null
  const events = await database
    .select()
    .from(orderEvents)
    .where(eq(orderEvents.order, number))
    .orderBy(asc(orderEvents.version))
  return {
    number,
    account: row.account,
    at: row.at,
    document: readOrder(row.document),
    events: events.map(({ event }) => readEvent(event)),
  }
}

/** What a list of orders is narrowed to. */
export interface OrderFilter {
  readonly states?: readonly OrderState[]
  /** Ids of accounts, or the beginning of what buyers are called. */
  readonly accounts?: readonly string[]
  readonly buyer?: string
  readonly since?: Date
  readonly until?: Date
  /** Only of this owner. */
  readonly owner?: OrderOwner
  /** Only of accounts by id, of which a line came by this list, or a promotion took something off. */
  readonly of?:
    { readonly accounts: readonly string[] } | { readonly list: string } | { readonly promotion: string }
}

const headline = {
  number: orders.number,
  account: orders.account,
  at: orders.at,
  state: orders.state,
  currency: orders.currency,
  due: orders.due,
  buyer: sql<string>`${orders.document} ->> 'buyer'`,
  digits: sql<number>`(${orders.document} ->> 'digits')::int`,
  lines: sql<number>`jsonb_array_length(${orders.document} -> 'lines')`,
}

/** Orders before a number (`null`: from the latest on), newest first. */
export async function listOrders(
  database: Reader,
  { states, accounts, buyer, since, until, owner, of }: OrderFilter,
  before: number | null,
  most: number,
): Promise<readonly OrderHeadline[]> {
  const mine = owner ? ownedBy(owner) : ofOwnBuyers(orders.account)
  if (mine === null) return []
  const named = [
    accounts && accounts.length > 0 ? inArray(orders.account, [...accounts]) : undefined,
    buyer ? sql`starts_with(${orders.buyer}, ${buyer.toLowerCase()})` : undefined,
  ].filter((each) => each !== undefined)
  return database
    .select(headline)
    .from(orders)
    .where(
      and(
        before === null ? undefined : lt(orders.number, before),
        states && states.length > 0 ? inArray(orders.state, [...states]) : undefined,
        named.length > 0 ? or(...named) : undefined,
        since ? gte(orders.at, since) : undefined,
        until ? lt(orders.at, until) : undefined,
        mine,
        of && isOf(of),
      ),
    )
    .orderBy(desc(orders.number))
    .limit(most)
}

function isOf(of: NonNullable<OrderFilter['of']>): SQL | undefined {
  if ('accounts' in of) return inArray(orders.account, [...of.accounts, ''])
  const [part, one] =
    'list' in of ? (['lines', { list: of.list }] as const) : (['promotions', { id: of.promotion }] as const)
  return sql`${orders.document} -> ${part} @> ${JSON.stringify([one])}::jsonb`
}

/** How many orders were placed between two instants in other currencies than one. */
export async function countOtherCurrencies(
  database: Reader,
  { since, until, currency }: { readonly since: Date; readonly until: Date; readonly currency: string },
): Promise<number> {
  const [row] = await database
    .select({ count: sql<number>`count(*)::int` })
    .from(orders)
    .where(
      and(
        gte(orders.at, since),
        lt(orders.at, until),
        ne(orders.currency, currency),
        ofOwnBuyers(orders.account),
      ),
    )
  return row?.count ?? 0
}

/** How many orders are in each of some states. */
export async function countOrders(
  database: Reader,
  states: readonly OrderState[],
): Promise<ReadonlyMap<OrderState, number>> {
  const rows = await database
    .select({ state: orders.state, count: sql<number>`count(*)::int` })
    .from(orders)
    .where(and(inArray(orders.state, [...states]), ofOwnBuyers(orders.account)))
    .groupBy(orders.state)
  return new Map(rows.map(({ state, count }) => [state, count]))
}
