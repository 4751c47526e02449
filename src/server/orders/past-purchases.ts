import 'server-only'

import type { PastPurchase } from '@/core/cart/cart'
import { type Decimal, decimal } from '@/core/decimal/decimal'
import type { Store } from '@/core/store/store'
import { and, eq, gte, ne, sql } from 'drizzle-orm'
import { orders } from '../database/selling-schema'
import type { Steppe } from '../engine/steppe'

const DAY = 86_400_000

/**
 * What an account has bought, as far back as limits over days look; nothing where none does. Nobody knows what a guest bought
 * elsewhere, and what was cancelled was not bought.
 */
export async function pastPurchases(
  { database }: Pick<Steppe, 'database'>,
  { limit }: Pick<Store, 'limit'>,
  account: string | null,
  now: number,
): Promise<readonly PastPurchase[]> {
  const days = Math.max(0, ...[...limit.values()].map((rule) => rule.days ?? 0))
  if (account === null || days === 0) return []
  const { rows } = await database.execute<{ variant: string; quantity: string; at: string }>(sql`
    select line ->> 'variant' as variant, line ->> 'quantity' as quantity, ${orders.at}::text as at
    from ${orders}, jsonb_array_elements(${orders.document} -> 'lines') as line
    where ${orders.account} = ${account} and ${orders.state} <> 'cancelled'
      and ${orders.at} >= ${new Date(now - days * DAY).toISOString()}
    order by ${orders.number}`)
  return rows.map(({ variant, quantity, at }) => ({
    variant,
    quantity: decimal(quantity),
    at: Date.parse(at),
  }))
}

/** When an account ordered, and what the goods came to without tax, in the currency of the order; the earliest first. */
export async function orderedValues(
  { database }: Pick<Steppe, 'database'>,
  account: string,
  since = new Date(0),
): Promise<readonly { readonly at: number; readonly net: Decimal; readonly currency: string }[]> {
  const rows = await database
    .select({
      at: orders.at,
      net: sql<string>`${orders.document} -> 'goods' ->> 'net'`,
      currency: orders.currency,
    })
    .from(orders)
    .where(and(eq(orders.account, account), ne(orders.state, 'cancelled'), gte(orders.at, since)))
    .orderBy(orders.number)
  return rows.map(({ at, net, currency }) => ({ at: at.getTime(), net: decimal(net), currency }))
}
