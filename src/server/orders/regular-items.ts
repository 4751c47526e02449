import 'server-only'

import { type Decimal, decimal } from '@/core/decimal/decimal'
import { sql } from 'drizzle-orm'
import type { Database } from '../database/database'
import { orders } from '../database/selling-schema'

/** An item an account has ordered again and again. */
export interface RegularItem {
  /** Id. */
  readonly variant: string
  /** In how many orders. */
  readonly times: number
  /** How many there were in the last of them, and when that was. */
  readonly quantity: Decimal
  readonly at: Date
}

/** So many of the latest orders are looked through. */
const ORDERS_SEEN = 50

/** What an account ordered at least twice of late, the most often first. */
export async function regularItems(
  database: Database,
  account: string,
  most: number,
): Promise<readonly RegularItem[]> {
  const { rows } = await database.execute<{
    variant: string
    times: number
    quantity: string
    at: string
  }>(sql`
    with latest as (
      select ${orders.number} as number, ${orders.at} as at, ${orders.document} as document
      from ${orders} where ${orders.account} = ${account} and ${orders.state} <> 'cancelled'
      order by ${orders.number} desc limit ${ORDERS_SEEN}
    ), bought as (
      select line ->> 'variant' as variant, line ->> 'quantity' as quantity, latest.number, latest.at
      from latest, jsonb_array_elements(latest.document -> 'lines') as line
      where line ->> 'isGift' <> 'true'
    )
    select variant, count(distinct number)::int as times,
      (array_agg(quantity order by number desc))[1] as quantity, max(at)::text as at
    from bought group by variant having count(distinct number) > 1
    order by times desc, max(number) desc limit ${most}`)
  return rows.map(({ variant, times, quantity, at }) => ({
    ...{ variant, times, quantity: decimal(quantity), at: new Date(at) },
  }))
}
