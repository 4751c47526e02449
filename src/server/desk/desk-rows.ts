import 'server-only'

import { and, desc, eq, inArray } from 'drizzle-orm'
import type { Transaction } from '../changes/commit-outcome'
import { requireRoom } from '../database/disk-room'
import { nextNumber } from '../database/number-series'
import { deskOrders } from '../database/selling-schema'
import type { Steppe } from '../engine/steppe'
import { type DeskContent, EMPTY_DESK, parseDesk } from './desk-shape'

export interface DeskOrder {
  readonly number: number
  readonly at: Date
  readonly author: string
  readonly state: (typeof deskOrders.$inferSelect)['state']
  readonly content: DeskContent
  readonly version: number
}

const UNFINISHED = ['open', 'held'] as const
const MOST_SHOWN = 20

function toDeskOrder({ order, ...row }: typeof deskOrders.$inferSelect): DeskOrder {
  return { ...row, content: parseDesk(order) ?? EMPTY_DESK }
}

/** Errors  `null` for none of the number, and for one that is finished. */
export async function findDeskOrder(
  { database }: Pick<Steppe, 'database'>,
  number: number,
): Promise<DeskOrder | null> {
  if (!Number.isSafeInteger(number)) return null
  const [row] = await database
    .select()
    .from(deskOrders)
    .where(and(eq(deskOrders.number, number), inArray(deskOrders.state, [...UNFINISHED])))
  return row ? toDeskOrder(row) : null
}

/** Those that are begun and neither placed nor given up, the latest first. */
export async function unfinishedDeskOrders({
  database,
}: Pick<Steppe, 'database'>): Promise<readonly DeskOrder[]> {
  const rows = await database
    .select()
    .from(deskOrders)
    .where(inArray(deskOrders.state, [...UNFINISHED]))
    .orderBy(desc(deskOrders.number))
    .limit(MOST_SHOWN)
  return rows.map(toDeskOrder)
}

/** Code of the channel the latest order of the desk was written down at; empty for the store's first. */
export async function lastChannel({ database }: Pick<Steppe, 'database'>): Promise<string> {
  const [last] = await database
    .select({ order: deskOrders.order })
    .from(deskOrders)
    .orderBy(desc(deskOrders.number))
    .limit(1)
  return last ? (parseDesk(last.order)?.channel ?? '') : ''
}

/** Begins one under the next number. Errors  throws `DiskFullError`. */
export async function beginDeskOrder(
  steppe: Steppe,
  content: DeskContent,
  { author, at }: { readonly author: string; readonly at: Date },
): Promise<number> {
  requireRoom(steppe)
  const number = await steppe.database.transaction(async (transaction) => {
    const next = await nextNumber(transaction, 'desk')
    await transaction
      .insert(deskOrders)
      .values({ number: next, at, author, state: 'open', order: content, version: 1 })
    return next
  })
  steppe.sync()
  return number
}

/** Saves one that somebody saw at a version. Resolves to `false` where it is another by now. Errors  throws `DiskFullError`. */
export async function saveDeskOrder(
  steppe: Steppe,
  { number, version }: { readonly number: number; readonly version: number },
  change: { readonly content?: DeskContent; readonly state?: DeskOrder['state']; readonly became?: number },
): Promise<boolean> {
  requireRoom(steppe)
  const { content, ...rest } = change
  const saved = await steppe.database
    .update(deskOrders)
    .set({ ...rest, ...(content && { order: content }), version: version + 1 })
    .where(
      and(
        eq(deskOrders.number, number),
        eq(deskOrders.version, version),
        inArray(deskOrders.state, [...UNFINISHED]),
      ),
    )
    .returning({ number: deskOrders.number })
  if (saved.length > 0) steppe.sync()
  return saved.length > 0
}

/** Marks one as finished, in the transaction of the order or quote it becomes; `false` where it is another by now, or was placed already. */
export function claimDeskOrder(
  { number, version }: { readonly number: number; readonly version: number },
  state: 'placed' | 'quoted' = 'placed',
) {
  return async (transaction: Transaction, order: number): Promise<boolean> => {
    const taken = await transaction
      .update(deskOrders)
      .set({ state, became: order, version: version + 1 })
      .where(
        and(
          eq(deskOrders.number, number),
          eq(deskOrders.version, version),
          inArray(deskOrders.state, [...UNFINISHED]),
        ),
      )
      .returning({ number: deskOrders.number })
    return taken.length > 0
  }
}
