import 'server-only'

import type { StockLevels } from '@/core/catalogue/stock'
import { decimal } from '@/core/decimal/decimal'
import { and, desc, eq, inArray, isNotNull, sql } from 'drizzle-orm'
import type { Database, Writer } from '../database/database'
import { stockLevels, stockMovements } from '../database/selling-schema'

/** How many there are of what is counted; of some variants only, or of all. */
export async function readStock(
  database: Pick<Database, 'select'>,
  variants: readonly string[] | null = null,
): Promise<StockLevels> {
  const counted = isNotNull(stockLevels.onHand)
  const rows = await database
    .select()
    .from(stockLevels)
    .where(variants === null ? counted : and(counted, inArray(stockLevels.variant, [...variants])))
  return new Map(
    rows.map(({ variant, onHand, reserved }) => [
      variant,
      { onHand: decimal(onHand ?? '0'), reserved: decimal(reserved) },
    ]),
  )
}

/** Ids of the variants of which none can be promised any more. */
export async function readOutOfStock(writer: Writer): Promise<ReadonlySet<string>> {
  const { rows } = await writer.execute<{ variant: string }>(
    sql`select variant from ${stockLevels} where on_hand <= reserved`,
  )
  return new Set(rows.map(({ variant }) => variant))
}

/** Of some variants, by id, whether they are out of stock. */
export async function stockStates(
  writer: Writer,
  variants: readonly string[],
): Promise<ReadonlyMap<string, boolean>> {
  const { rows } = await writer.execute<{ variant: string; out: boolean }>(sql`
    select variant, coalesce(on_hand <= reserved, false) as out from ${stockLevels}
    where variant in (select jsonb_array_elements_text(${JSON.stringify(variants)}::jsonb))`)
  return new Map(rows.map(({ variant, out }) => [variant, out]))
}

/** Of the variants whose stock has moved since an instant, by id, whether they were out of stock then. */
export async function stockChangedSince(
  writer: Writer,
  instant: Date,
): Promise<ReadonlyMap<string, boolean>> {
  const { rows } = await writer.execute<{ variant: string; out: boolean }>(sql`
    select level.variant, coalesce(later.before <= level.reserved - later.reserved, false) as out
    from ${stockLevels} as level join (
      select variant, sum(reserved) as reserved, (array_agg(before order by id))[1] as before
      from ${stockMovements} where at > ${instant.toISOString()} group by variant
    ) as later on later.variant = level.variant`)
  return new Map(rows.map(({ variant, out }) => [variant, out]))
}

export type StockMovement = typeof stockMovements.$inferSelect

/** What moved the stock of some variants, the latest first. */
export function latestMovements(
  database: Pick<Database, 'select'>,
  variants: readonly string[],
  most: number,
): Promise<readonly StockMovement[]> {
  return database
    .select()
    .from(stockMovements)
    .where(inArray(stockMovements.variant, [...variants]))
    .orderBy(desc(stockMovements.id))
    .limit(most)
}

/** What a change set moved, as counts that take it back. */
export async function countsOf(database: Pick<Database, 'select'>, changeSet: number) {
  const rows = await database
    .select()
    .from(stockMovements)
    .where(eq(stockMovements.changeSet, changeSet))
    .orderBy(desc(stockMovements.id))
  return rows.map(({ variant, before, after }) => ({
    variant,
    seen: after === null ? null : decimal(after),
    counted: before === null ? null : decimal(before),
  }))
}
