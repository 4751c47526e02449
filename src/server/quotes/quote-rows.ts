import 'server-only'

import type { QuoteRequest } from '@/core/quote/quote'
import type { QuoteEvent, QuoteState } from '@/core/quote/quote-event'
import { and, asc, desc, eq, inArray, isNull, lt, or, type SQL, sql } from 'drizzle-orm'
import { ofOwnBuyers } from '../session/own-buyers'
import type { Database } from '../database/database'
import { quoteEvents, quotes } from '../database/selling-schema'
import type { OrderOwner } from '../orders/order-rows'
import { parseWorking, readQuoteEvent, readRequest, type WorkingOffer } from './quote-shape'

export interface Quote {
  readonly number: number
  /** Id; `null` for a guest. */
  readonly account: string | null
  readonly visitor: string | null
  readonly at: Date
  readonly request: QuoteRequest
  readonly events: readonly QuoteEvent[]
  /** An offer that is being written, and how often it was kept. */
  readonly working: WorkingOffer | null
  readonly workingVersion: number
}

/** A quote as a list tells of it. */
export interface QuoteHeadline {
  readonly number: number
  readonly account: string | null
  readonly at: Date
  readonly buyer: string
  readonly state: QuoteState
  readonly currency: string
  readonly digits: number
  readonly lines: number
  readonly neededBy: string
  /** With tax; `null` before there is an offer. */
  readonly total: string | null
  readonly until: string | null
}

type Reader = Pick<Database, 'select'>

/** Only theirs; `null` where nobody is meant. */
function ownedBy({ account, visitor }: OrderOwner): SQL | undefined | null {
  if (account !== null) return eq(quotes.account, account)
  return visitor === null ? null : and(isNull(quotes.account), eq(quotes.visitor, visitor))
}

/** A quote with what was done with it. Errors  `null` where there is none of the number, or it is not the owner's. */
export async function findQuote(
  database: Reader,
  number: number,
  owner: OrderOwner | 'any' = 'any',
): Promise<Quote | null> {
  const mine = owner === 'any' ? ofOwnBuyers(quotes.account) : ownedBy(owner)
  if (mine === null || !Number.isSafeInteger(number)) return null
  const [row] = await database
    .select()
    .from(quotes)
    .where(and(eq(quotes.number, number), mine))
  if (!row) return null
  const events = await database
    .select()
    .from(quoteEvents)
    .where(eq(quoteEvents.quote, number))
    .orderBy(asc(quoteEvents.version))
  const { account, visitor, at, working, workingVersion } = row
  return {
    ...{ number, account, visitor, at, workingVersion },
    request: readRequest(row.request),
    events: events.map(({ event }) => readQuoteEvent(event)),
    working: working === null ? null : parseWorking(working),
  }
}

/** What a list of quotes is narrowed to. */
export interface QuoteFilter {
  readonly states?: readonly QuoteState[]
  /** Ids of accounts, or the beginning of what buyers are called. */
  readonly accounts?: readonly string[]
  readonly buyer?: string
  /** Only of this owner. */
  readonly owner?: OrderOwner
}

const headline = {
  number: quotes.number,
  account: quotes.account,
  at: quotes.at,
  state: quotes.state,
  currency: quotes.currency,
  total: quotes.total,
  until: quotes.until,
  buyer: sql<string>`${quotes.request} ->> 'buyer'`,
  neededBy: sql<string>`${quotes.request} ->> 'neededBy'`,
  digits: sql<number>`(${quotes.request} ->> 'digits')::int`,
  lines: sql<number>`jsonb_array_length(${quotes.request} -> 'lines')`,
}

/** Quotes before a number (`null`: from the latest on), newest first. */
export async function listQuotes(
  database: Reader,
  { states, accounts, buyer, owner }: QuoteFilter,
  before: number | null,
  most: number,
): Promise<readonly QuoteHeadline[]> {
  const mine = owner ? ownedBy(owner) : ofOwnBuyers(quotes.account)
  if (mine === null) return []
  const named = [
    accounts && accounts.length > 0 ? inArray(quotes.account, [...accounts]) : undefined,
    buyer ? sql`starts_with(${quotes.buyer}, ${buyer.toLowerCase()})` : undefined,
  ].filter((each) => each !== undefined)
  return database
    .select(headline)
    .from(quotes)
    .where(
      and(
        before === null ? undefined : lt(quotes.number, before),
        states && states.length > 0 ? inArray(quotes.state, [...states]) : undefined,
        named.length > 0 ? or(...named) : undefined,
        mine,
      ),
    )
    .orderBy(desc(quotes.number))
    .limit(most)
}

/** How many quotes are in each state. */
export async function countQuotes(database: Reader): Promise<ReadonlyMap<QuoteState, number>> {
  const rows = await database
    .select({ state: quotes.state, count: sql<number>`count(*)::int` })
    .from(quotes)
    .where(ofOwnBuyers(quotes.account))
    .groupBy(quotes.state)
  return new Map(rows.map(({ state, count }) => [state, count]))
}
