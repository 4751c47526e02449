import 'server-only'

import type { CartLineWanted } from '@/core/cart/cart'
import type { Choice } from '@/core/promotions/facts'
import { parseDecimal } from '@/core/decimal/decimal'
import type { PreparedStore } from '@/core/engine/context/prepared-store'
import type { Payment } from '@/core/promotions/promotion'
import { eq } from 'drizzle-orm'
import { requireRoom } from '../database/disk-room'
import { carts } from '../database/selling-schema'
import type { Steppe } from '../engine/steppe'
import { currentInstant } from '@/server/clock'

/** What a visitor has put in; what no longer exists has fallen out. */
export async function readCart(
  { database }: Steppe,
  { store }: PreparedStore,
  id: string | null,
): Promise<readonly CartLineWanted[]> {
  if (id === null) return []
  const row = await database.query.carts.findFirst({ where: eq(carts.id, id) })
  return ((row?.lines ?? []) as readonly CartLineWanted[]).flatMap(({ variant, quantity, extras }) => {
    const amount = parseDecimal(quantity)
    if (amount === null || !store.variant.has(variant)) return []
    return [{ variant, quantity: amount, extras: extras.filter((extra) => store.extra.has(extra)) }]
  })
}

/** What a cart knows beside its lines. */
export interface CartFacts {
  readonly codes: readonly string[]
  readonly choices: Readonly<Record<string, Choice>>
  readonly payment: Payment | null
  readonly wrongCodes: number
  readonly wrongSince: Date | null
}

const NOTHING_SAID: CartFacts = { codes: [], choices: {}, payment: null, wrongCodes: 0, wrongSince: null }

export async function readCartFacts({ database }: Steppe, id: string | null): Promise<CartFacts> {
  const row = id === null ? null : await database.query.carts.findFirst({ where: eq(carts.id, id) })
  return row ?? NOTHING_SAID
}

/** Errors  throws `DiskFullError`. */
export async function writeCartFacts(steppe: Steppe, id: string, facts: Partial<CartFacts>): Promise<void> {
  requireRoom(steppe)
  const row = { ...facts, at: currentInstant() }
  await steppe.database
    .insert(carts)
    .values({ id, lines: [], ...row })
    .onConflictDoUpdate({ target: carts.id, set: row })
}

/** Errors  throws `DiskFullError`. */
export async function writeCart(steppe: Steppe, id: string, lines: readonly CartLineWanted[]): Promise<void> {
  requireRoom(steppe)
  const row = { id, lines, at: currentInstant() }
  await steppe.database.insert(carts).values(row).onConflictDoUpdate({ target: carts.id, set: row })
}
