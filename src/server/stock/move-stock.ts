import 'server-only'

import type { MovementKind, StockLevels } from '@/core/catalogue/stock'
import { type Decimal, decimal } from '@/core/decimal/decimal'
import { sql } from 'drizzle-orm'
import type { Writer } from '../database/database'
import { numberSeries, stockLevels, stockMovements } from '../database/selling-schema'

/** What is written beside each movement. */
export interface MovementNote {
  readonly at: Date
  readonly author: string
  readonly note: string
  readonly order?: number
  readonly changeSet?: number
}

/** A count of one variant. */
export interface StockCount {
  /** Id. */
  readonly variant: string
  /** What was on hand when it was counted; `null` where nobody counted. */
  readonly seen: Decimal | null
  /** What was counted; `null` where nobody counts any more. */
  readonly counted: Decimal | null
}

/** What was counted, by id of the variant, as far as it differs from what is on hand. */
export function countsThatDiffer(
  levels: StockLevels,
  counted: Iterable<readonly [variant: string, count: Decimal | null]>,
): readonly StockCount[] {
  return [...counted].flatMap(([variant, count]) => {
    const seen = levels.get(variant)?.onHand ?? null
    return seen === count ? [] : [{ variant, seen, counted: count }]
  })
}

/** So many of one variant, for an order. */
export interface OrderedStock {
  /** Id. */
  readonly variant: string
  readonly quantity: Decimal
}

/**
 * Writes down counts. What was sent or taken back since somebody looked stays so: a count moves stock by as much as it
 * differs from what was seen.
 */
export async function countStock(
  writer: Writer,
  counts: readonly StockCount[],
  note: MovementNote,
  kind: 'counted' | 'corrected' = 'counted',
): Promise<void> {
  if (counts.length === 0) return
  const rows = JSON.stringify(counts)
  await writer.execute(sql`
    insert into ${stockLevels} (variant, on_hand, reserved)
    select variant, null, 0 from jsonb_to_recordset(${rows}::jsonb) as counts(variant text)
    on conflict do nothing`)
  // Two who move the same variants take them in the same order.
  await writer.execute(sql`
    select 1 from ${stockLevels} where variant in (select variant from jsonb_to_recordset(${rows}::jsonb) as counts(variant text))
    order by variant for update`)
  await writer.execute(sql`
    with counts as (
      select * from jsonb_to_recordset(${rows}::jsonb) as counts(variant text, seen numeric, counted numeric)
    ), known as (
      select level.variant, level.on_hand as before,
        case when counts.counted is null or counts.seen is null or level.on_hand is null then counts.counted
          else level.on_hand + counts.counted - counts.seen end as after
      from ${stockLevels} as level join counts on counts.variant = level.variant
    ), moved as (
      update ${stockLevels} as level set on_hand = known.after
      from known where known.variant = level.variant and known.after is distinct from known.before
      returning level.variant, known.before, known.after
    )
    ${INTO_LEDGER} select ${written(kind, note)}, variant, before, after, 0 from moved`)
  await noteMoved(writer)
}

/** Counts that stock has moved, by which other processes see that what they know of it is old. Last, since the next one waits for it. */
async function noteMoved(writer: Writer): Promise<void> {
  await writer.execute(sql`update ${numberSeries} set next = next + 1 where name = 'stock'`)
}

/** Promises stock to an order, and takes it from the shelf when it is sent: by how much each moves for one piece. */
const MOVES = {
  reserved: { onHand: 0, reserved: 1 },
  released: { onHand: 0, reserved: -1 },
  sold: { onHand: -1, reserved: -1 },
  returned: { onHand: 1, reserved: 0 },
} as const

/**
 * Moves stock for an order. Resolves to what can still be promised afterwards of each variant that is counted, by id; below
 * zero is on back order.
 */
export async function moveStock(
  writer: Writer,
  kind: keyof typeof MOVES,
  ordered: readonly OrderedStock[],
  note: MovementNote & { readonly order: number },
): Promise<ReadonlyMap<string, Decimal>> {
  const move = MOVES[kind]
  const { rows } = await writer.execute<{ variant: string; available: string | null }>(sql`
    with wanted as (
      select variant, sum(quantity) as quantity
      from jsonb_to_recordset(${JSON.stringify(ordered)}::jsonb) as wanted(variant text, quantity numeric)
      group by variant
    ), moved as (
      insert into ${stockLevels} as level (variant, on_hand, reserved)
      select variant, null, ${move.reserved}::int * quantity from wanted order by variant
      on conflict (variant) do update set
        on_hand = level.on_hand + (select ${move.onHand}::int * quantity from wanted where variant = excluded.variant),
        reserved = level.reserved + excluded.reserved
      returning level.variant, level.on_hand, level.reserved
    ), told as (
      ${INTO_LEDGER}
      select ${written(kind, note)}, moved.variant, moved.on_hand - ${move.onHand}::int * wanted.quantity,
        moved.on_hand, ${move.reserved}::int * wanted.quantity
      from moved join wanted on wanted.variant = moved.variant
    )
    select variant, (on_hand - reserved)::text as available from moved`)
  await noteMoved(writer)
  return new Map(
    rows.flatMap(({ variant, available }) =>
      available === null ? [] : [[variant, decimal(available)] as const],
    ),
  )
}

const INTO_LEDGER = sql`insert into ${stockMovements}
  (at, kind, order_number, change_set, author, note, variant, before, after, reserved)`

function written(kind: MovementKind, { at, order, changeSet, author, note }: MovementNote) {
  return sql`${at.toISOString()}::timestamptz, ${kind}::text, ${order ?? null}::int, ${changeSet ?? null}::int,
    ${author}::text, ${note}::text`
}
