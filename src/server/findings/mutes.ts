import 'server-only'

import { eq, gt, isNull, or } from 'drizzle-orm'
import { requireRoom } from '../database/disk-room'
import { findingMutes } from '../database/schema'
import type { Steppe } from '../engine/steppe'

export type Mute = typeof findingMutes.$inferSelect

/** The mutes that hold at an instant, by what they mute. */
export async function mutesAt({ database }: Steppe, at: Date): Promise<ReadonlyMap<string, Mute>> {
  const rows = await database
    .select()
    .from(findingMutes)
    .where(or(isNull(findingMutes.until), gt(findingMutes.until, at)))
  return new Map(rows.map((row) => [row.key, row]))
}

/** Mutes a finding, or mutes it in another way than before. */
export async function mute(steppe: Steppe, row: Mute): Promise<void> {
  requireRoom(steppe)
  await steppe.database
    .insert(findingMutes)
    .values(row)
    .onConflictDoUpdate({ target: findingMutes.key, set: row })
  steppe.sync()
}

/** Lets a finding be told of again. */
export async function unmute(steppe: Steppe, key: string): Promise<void> {
  await steppe.database.delete(findingMutes).where(eq(findingMutes.key, key))
  steppe.sync()
}
