import 'server-only'

import { type Decimal, decimal } from '@/core/decimal/decimal'
import { and, desc, isNotNull, ne, sql } from 'drizzle-orm'
import type { Database } from '../database/database'
import { orders, quotes } from '../database/selling-schema'

/** What an account paid for one piece, and when. */
export interface PaidBefore {
  readonly order: number
  readonly at: Date
  readonly quantity: Decimal
  readonly net: Decimal
  readonly gross: Decimal
  readonly currency: string
}

/** What an account paid for a variant in its latest orders that were not cancelled, the latest first. */
export async function paidBefore(
  database: Database,
  account: string | null,
  variant: string,
  most: number,
): Promise<readonly PaidBefore[]> {
  if (account === null) return []
  const { rows } = await database.execute<{
    order: number
    at: string
    quantity: string
    net: string
    gross: string
    currency: string
  }>(sql`
    select ${orders.number} as order, ${orders.at}::text as at, ${orders.currency} as currency,
      line ->> 'quantity' as quantity, line -> 'unit' ->> 'net' as net, line -> 'unit' ->> 'gross' as gross
    from ${orders}, jsonb_array_elements(${orders.document} -> 'lines') as line
    where ${orders.account} = ${account} and ${orders.state} <> 'cancelled'
      and line ->> 'variant' = ${variant} and line ->> 'isGift' <> 'true'
    order by ${orders.number} desc limit ${most}`)
  return rows.map(({ order, at, quantity, net, gross, currency }) => ({
    ...{ order, currency, at: new Date(at) },
    ...{ quantity: decimal(quantity), net: decimal(net), gross: decimal(gross) },
  }))
}

/** Somebody else who asked for the same. */
export interface AskedByOther {
  readonly quote: number
  readonly buyer: string
  readonly at: Date
  readonly quantity: Decimal
  /** What was offered for one last; `null` where nothing was. */
  readonly price: Decimal | null
  readonly currency: string
}

/** Quotes of others that asked for a variant, the latest first. */
export async function askedByOthers(
  database: Database,
  { quote, account }: { readonly quote: number; readonly account: string | null },
  variant: string,
  most: number,
): Promise<readonly AskedByOther[]> {
  const contains = JSON.stringify([{ variant }])
  const rows = await database
    .select({
      quote: quotes.number,
      at: quotes.at,
      currency: quotes.currency,
      buyer: sql<string>`${quotes.request} ->> 'buyer'`,
      quantity: sql<string>`(select line ->> 'quantity' from jsonb_array_elements(${quotes.request} -> 'lines') as line
        where line ->> 'variant' = ${variant} limit 1)`,
      price: sql<string | null>`(select line ->> 'price' from quote_event as e,
        jsonb_array_elements(e.event -> 'step' -> 'offer' -> 'lines') as line
        where e.quote_number = ${quotes.number} and line ->> 'variant' = ${variant} order by e.version desc limit 1)`,
    })
    .from(quotes)
    .where(
      and(
        ne(quotes.number, quote),
        account === null ? undefined : and(isNotNull(quotes.account), ne(quotes.account, account)),
        sql`${quotes.request} -> 'lines' @> ${contains}::jsonb`,
      ),
    )
    .orderBy(desc(quotes.number))
    .limit(most)
  return rows.map(({ quantity, price, ...row }) => ({
    ...row,
    quantity: decimal(quantity),
    price: price === null ? null : decimal(price),
  }))
}
