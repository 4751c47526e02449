import 'server-only'

import { type Decimal, decimal } from '@/core/decimal/decimal'
import { startOfDay } from '@/core/predicates/instant'
import { getSettings, priceDigitsOf } from '@/core/store/store'
import { orders, promotionUses } from '@/server/database/selling-schema'
import type { RequestContext } from '@/server/engine/request-context'
import { readUses } from '@/server/shop/promotion-uses'
import { formatMoney } from '@/ui/format/amount'
import { recordHref } from '@/ui/frame/record-href'
import { sql } from 'drizzle-orm'

/** How a promotion has been used, counted from orders. */
export interface UsesView {
  readonly total: number
  readonly today: number
  /** Who used it most, guests as one. */
  readonly buyers: readonly { readonly name: string; readonly href: string | null; readonly uses: number }[]
  /** What it has saved buyers, a currency each, without tax where the store enters prices so. */
  readonly given: readonly string[]
}

const MOST_BUYERS = 4

export async function loadUses(
  { steppe, prepared, now }: Pick<RequestContext, 'steppe' | 'prepared' | 'now'>,
  id: string,
): Promise<UsesView> {
  const { store } = prepared
  const today = startOfDay(new Date(now), getSettings(store).timeZone)
  const used = (await readUses(steppe.database, { account: null, visitor: null }, today))[id]
  const { rows: buyers } = await steppe.database.execute<{ account: string | null; uses: number }>(sql`
    select account, sum(uses)::int as uses from ${promotionUses}
    where promotion = ${id} group by account order by uses desc limit ${MOST_BUYERS}`)
  const { rows: given } = await steppe.database.execute<{ currency: string; saving: string }>(sql`
    select document ->> 'currency' as currency, sum((used ->> 'saving')::numeric)::text as saving
    from ${promotionUses}
    join ${orders} on ${orders.number} = ${promotionUses.order}
    cross join jsonb_array_elements(document -> 'promotions') as used
    where promotion = ${id} and used ->> 'id' = ${id}
    group by document ->> 'currency' order by currency`)
  const money = (amount: Decimal, currency: string) =>
    formatMoney(amount, currency, priceDigitsOf(store, currency))
  return {
    total: used?.total ?? 0,
    today: used?.today ?? 0,
    buyers: buyers.map(({ account, uses }) => {
      const record = account === null ? undefined : store.account.get(account)
      return {
        name: record?.name ?? (account === null ? 'Guests' : 'accounts that are gone'),
        href: record ? recordHref('accounts', record.code) : null,
        uses,
      }
    }),
    given: given.map(({ currency, saving }) => money(decimal(saving), currency)),
  }
}
