import 'server-only'

import { type Change, reverseChanges } from '@/core/store/store'
import { eq, type SQL, sql } from 'drizzle-orm'
import { isDiskFull } from '../database/disk-room'
import type { Writer } from '../database/database'
import * as schema from '../database/schema'
import { Slices } from '../doors/slices'
import type { Steppe } from '../engine/steppe'
import { makeReady } from '../engine/make-ready'
import type { UnderWay } from '../engine/under-way'
import { forgetHistory, revisionKey, writeChanges, writeHistory } from '../records/record-tables'
import type { Committed, CommitNote, CommitOutcome, CommitProgress } from './commit-outcome'
import { liveTarget, type Target } from '../views/view'
import { beginLarge, holdLarge, inLiveTurn } from './turns'
import { type ChangeRequest, type Weighed, weigh, weighAgain } from './weigh'
import { keep, writeAtOnce } from './write-at-once'

/** Beyond so many records a change is written in slices. */
export const MOST_AT_ONCE = 500

/** How many numbers are left to what others change while a large change is under way. */
const NUMBERS_LEFT = 1_000

/**
 * Weighs and writes many records while others read and write: only who wants one of the same records waits. What is
 * written counts when all of it is there; a server that stops before that undoes it when it starts again.
 *
 * Errors  those of `commit`.
 */
export function commitInSlices(
  target: Target,
  requests: readonly ChangeRequest[],
  note: CommitNote,
  onProgress: CommitProgress,
): Promise<CommitOutcome> {
  return holdLarge(target.steppe, () => commitLarge(target, requests, note, onProgress))
}

async function commitLarge(
  target: Target,
  requests: readonly ChangeRequest[],
  note: CommitNote,
  onProgress: CommitProgress,
): Promise<CommitOutcome> {
  const { steppe } = target
  const underWay = await begin(steppe, requests)
  let isMended = true
  try {
    if (isDiskFull(steppe)) return { ok: false, code: 'disk-full', freeBytes: steppe.freeBytes() }
    const weighed = await weigh(liveTarget(steppe), requests, {
      seen: target,
      onRead: (done) => onProgress('checking', done),
    })
    if (!weighed.ok) return weighed
    await makeReady(weighed.after)
    const joined = await join(steppe, underWay, weighed, note, onProgress)
    if (joined) return joined
    try {
      return await write(steppe, underWay, weighed, note, onProgress)
    } catch (error) {
      isMended = false
      await callOff(steppe, underWay, weighed.changes)
      isMended = true
      throw error
    }
  } catch (error) {
    if (!isMended) underWay.fail(error)
    throw error
  } finally {
    // Records that could not be restored stay locked until the server starts again.
    if (isMended) {
      steppe.underWay = null
      underWay.end()
    }
  }
}

/** Takes the place of the one large change. */
async function begin(steppe: Steppe, touched: readonly ChangeRequest[]): Promise<UnderWay> {
  return beginLarge(
    steppe,
    () => steppe.underWay?.ended ?? null,
    () => {
      let end: UnderWay['end'] = () => undefined
      let fail: UnderWay['fail'] = () => undefined
      const ended = new Promise<void>((resolve, reject) => {
        end = resolve
        fail = reject
      })
      ended.catch(() => undefined)
      const changeSet = steppe.lastChangeSet + NUMBERS_LEFT
      const records = new Set(touched.map(revisionKey))
      steppe.underWay = { records, changeSet, meanwhile: [], after: null, ended, end, fail }
      return Promise.resolve(steppe.underWay)
    },
  )
}

/** Brings together what was weighed and what others changed meanwhile; what turns out to be small is written at once. */
async function join(
  steppe: Steppe,
  underWay: UnderWay,
  weighed: Weighed,
  note: CommitNote,
  onProgress: CommitProgress,
): Promise<CommitOutcome | null> {
  return inLiveTurn<CommitOutcome | null>(
    steppe,
    () => null,
    async () => {
      const joined = await weighAgain(weighed.after, netChanges(underWay.meanwhile))
      if (!joined.ok) return joined
      underWay.after = joined.after
      if (weighed.changes.length > MOST_AT_ONCE) return null
      const atOnce = { ...weighed, before: steppe.prepared, after: joined.after }
      return writeAtOnce(steppe, atOnce, note, onProgress)
    },
  )
}

/** One change for each record, from what it was before the first to what the last made of it. */
function netChanges(changes: readonly Change[]): readonly Change[] {
  const net = new Map<string, Change>()
  for (const change of changes) {
    const before = net.get(revisionKey(change))?.before ?? change.before
    net.set(revisionKey(change), { ...change, before } as Change)
  }
  return [...net.values()]
}

/** Every slice is on its own; only the last step makes all of it count. */
async function write(
  steppe: Steppe,
  underWay: UnderWay,
  { changes }: Weighed,
  note: CommitNote,
  onProgress: CommitProgress,
): Promise<Committed> {
  const { database } = steppe
  const { changeSet } = underWay
  const { author, at, undoes = null } = note
  const slices = new Slices()
  const onRows = async (done: number) => {
    await onProgress('writing', done)
    // Else whoever writes next would wait for the disk to take all of this, too.
    await steppe.syncMeanwhile()
    await slices.rest()
  }
  await database
    .insert(schema.changeSets)
    .values({ id: changeSet, at, author, note: note.note, undoes, isUnfinished: true })
  const writer = sliceWriter(steppe, changeSet)
  await writeHistory(writer, changes, changeSet, onRows)
  await writeChanges(
    writer,
    changes,
    () => changeSet,
    (done) => onRows(changes.length + done),
  )
  await steppe.syncMeanwhile()
  return inLiveTurn(
    steppe,
    () => null,
    async () => {
      const before = steppe.prepared
      const after = underWay.after as NonNullable<typeof before>
      await database.transaction(async (transaction) => {
        await transaction
          .update(schema.changeSets)
          .set({ isUnfinished: false })
          .where(eq(schema.changeSets.id, changeSet))
        await note.alongside?.(transaction, changeSet)
      })
      steppe.sync()
      keep(steppe, after, changes, changeSet)
      steppe.underWay = null
      return { ok: true, changeSet, changes, before, after }
    },
  )
}

/** Writes slices of a change set as long as it stands unfinished: another process undoes what one that seems to be gone has written. */
function sliceWriter({ database, isShared }: Steppe, changeSet: number): Writer {
  if (!isShared) return database
  const execute = ((query: SQL) =>
    database.transaction(async (transaction) => {
      const { rows } = await transaction.execute(
        sql`select 1 from ${schema.changeSets} where id = ${changeSet} and is_unfinished for key share`,
      )
      if (rows.length === 0) throw new Error('another process called this change off')
      return transaction.execute(query)
    })) as Writer['execute']
  return { execute }
}

/** Restores, in slices again, whatever has been written. */
async function callOff(steppe: Steppe, { changeSet }: UnderWay, changes: readonly Change[]): Promise<void> {
  const slices = new Slices()
  const revisionOf = (record: Pick<Change, 'kind' | 'id'>) => steppe.revisions.get(revisionKey(record)) ?? 1
  await writeChanges(steppe.database, reverseChanges(changes), revisionOf, () => slices.rest())
  await forgetHistory(steppe.database, changeSet, () => slices.rest())
}
