import 'server-only'

import type { Uses } from '@/core/promotions/facts'
import { sql } from 'drizzle-orm'
import type { Database } from '../database/database'
import { promotionUses } from '../database/selling-schema'

/** How often promotions have been used, by their ids: ever, by one buyer, and since an instant. */
export async function readUses(
  database: Pick<Database, 'execute'>,
  { account, visitor }: { readonly account: string | null; readonly visitor: string | null },
  today: Date,
): Promise<Readonly<Record<string, Uses>>> {
  const isTheirs =
    account === null ? sql`account is null and visitor = ${visitor ?? ''}` : sql`account = ${account}`
  const { rows } = await database.execute<{
    promotion: string
    total: number
    by_buyer: number
    today: number
  }>(sql`
    select promotion, sum(uses)::int as total,
      coalesce(sum(uses) filter (where ${isTheirs}), 0)::int as by_buyer,
      coalesce(sum(uses) filter (where at >= ${today.toISOString()}::timestamptz), 0)::int as today
    from ${promotionUses} group by promotion`)
  return Object.fromEntries(
    rows.map(({ promotion, total, by_buyer: byBuyer, today: since }) => [
      promotion,
      { total, byBuyer, today: since },
    ]),
  )
}
