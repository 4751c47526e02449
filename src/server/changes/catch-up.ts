import 'server-only'

import type { PreparedStore } from '@/core/engine/context/prepared-store'
import { refreshInSteps, restocked } from '@/core/engine/prepare'
import { applyInSteps, type Change } from '@/core/store/store'
import { and, asc, gt, lte } from 'drizzle-orm'
import * as schema from '../database/schema'
import { Slices } from '../doors/slices'
import { readHead, readState } from '../engine/read-state'
import type { Steppe } from '../engine/steppe'
import { toChange } from '../records/undo-unfinished'
import { readOutOfStock } from '../stock/stock-levels'
import { netChanges } from './net-changes'
import { noteRevisions } from './write-at-once'
import { log } from '../operations/log'

/**
 * Takes over what other processes have written since: what is known in memory is what the database holds. To be called in the
 * process's own turn of writing.
 */
export async function catchUp(steppe: Steppe): Promise<void> {
  const { changeSet, stockMoves } = await readHead(steppe.database)
  if (changeSet > steppe.lastChangeSet) await takeOver(steppe, changeSet)
  if (stockMoves !== steppe.stockMoves) await takeStock(steppe, stockMoves)
}

/** Whether other processes have written what is not known here yet. */
export async function isBehind(steppe: Steppe): Promise<boolean> {
  const { changeSet, stockMoves } = await readHead(steppe.database)
  return changeSet > steppe.lastChangeSet || stockMoves !== steppe.stockMoves
}

async function takeOver(steppe: Steppe, until: number): Promise<void> {
  const { prepared, lastChangeSet } = steppe
  // What could not be read, or was not there, is read as a whole.
  if (!prepared) return void Object.assign(steppe, await readState(steppe))
  const rows = await steppe.database
    .select()
    .from(schema.changes)
    .where(and(gt(schema.changes.changeSet, lastChangeSet), lte(schema.changes.changeSet, until)))
    .orderBy(asc(schema.changes.changeSet), asc(schema.changes.position))
  const changes = netChanges(prepared.store, rows.map(toChange))
  try {
    steppe.prepared = await refreshed(prepared, changes)
  } catch (error) {
    log.error({ err: error }, 'what another process wrote could not be taken over; all is read anew')
    return void Object.assign(steppe, await readState(steppe))
  }
  for (const row of rows) noteRevisions(steppe, [toChange(row)], row.changeSet)
  steppe.lastChangeSet = until
}

async function refreshed(prepared: PreparedStore, changes: readonly Change[]): Promise<PreparedStore> {
  const slices = new Slices()
  const store = await slices.run(applyInSteps(prepared.store, changes))
  // Whoever wrote them has proved that it can be asked.
  return slices.run(refreshInSteps(prepared, store, changes))
}

async function takeStock(steppe: Steppe, moves: number): Promise<void> {
  const outOfStock = await readOutOfStock(steppe.database)
  if (steppe.prepared) steppe.prepared = restocked(steppe.prepared, outOfStock)
  const { underWay } = steppe
  if (underWay?.after) underWay.after = restocked(underWay.after, outOfStock)
  steppe.stockMoves = moves
}
