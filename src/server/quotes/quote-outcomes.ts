import 'server-only'

import { ofOwnBuyers } from '../session/own-buyers'
import { type Decimal, decimal } from '@/core/decimal/decimal'
import type { LostReason, QuoteState } from '@/core/quote/quote-event'
import { and, asc, gte, lt, sql } from 'drizzle-orm'
import type { Database } from '../database/database'
import { quotes } from '../database/selling-schema'

/** How a quote ended, or stands. */
export interface QuoteOutcomeRow {
  readonly number: number
  readonly account: string | null
  readonly buyer: string
  readonly state: QuoteState
  readonly currency: string
  /** What was offered last with tax; `null` where nothing was. */
  readonly value: Decimal | null
  /** Why it was declined; `null` where it was not. */
  readonly reason: LostReason | null
}

const MOST = 20_000

/** The quotes that were asked for between two instants. */
export async function quoteOutcomes(
  database: Pick<Database, 'select'>,
  { since, until }: { readonly since: Date; readonly until: Date },
): Promise<readonly QuoteOutcomeRow[]> {
  const rows = await database
    .select({
      number: quotes.number,
      account: quotes.account,
      state: quotes.state,
      currency: quotes.currency,
      value: quotes.total,
      buyer: sql<string>`${quotes.request} ->> 'buyer'`,
      reason: sql<LostReason | null>`(select e.event -> 'step' ->> 'reason' from quote_event as e
        where e.quote_number = ${quotes.number} and e.event -> 'step' ->> 'kind' = 'decline' and ${quotes.state} = 'declined'
        order by e.version desc limit 1)`,
    })
    .from(quotes)
    .where(and(gte(quotes.at, since), lt(quotes.at, until), ofOwnBuyers(quotes.account)))
    .orderBy(asc(quotes.number))
    .limit(MOST)
  return rows.map(({ value, ...row }) => ({ ...row, value: value === null ? null : decimal(value) }))
}
