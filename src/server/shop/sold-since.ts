import 'server-only'

import { sql } from 'drizzle-orm'
import { orders } from '../database/selling-schema'
import type { Steppe } from '../engine/steppe'

/** How many of each variant were ordered since an instant, by its id. Gifts were not sold, nor was what was cancelled. */
export async function soldSince({ database }: Steppe, since: Date): Promise<ReadonlyMap<string, number>> {
  const { rows } = await database.execute<{ variant: string; sold: string }>(sql`
    select line ->> 'variant' as variant, sum((line ->> 'quantity')::numeric)::text as sold
    from ${orders}, jsonb_array_elements(${orders.document} -> 'lines') as line
    where ${orders.at} >= ${since.toISOString()} and ${orders.state} <> 'cancelled' and (line ->> 'isGift') is distinct from 'true'
    group by 1`)
  return new Map(rows.map(({ variant, sold }) => [variant, Number(sold)]))
}
