import 'server-only'

import type { Steppe } from '../engine/steppe'
import type { Turns } from '../engine/under-way'
import { revisionKey } from '../records/record-tables'
import { undoUnfinished } from '../records/undo-unfinished'
import { catchUp } from './catch-up'
import type { ChangeRequest } from './weigh'

/**
 * Acts when nobody else is writing, and nothing is under way that has to end first.
 *
 * Errors  rejects with what acting rejects with, or when what it waited for could not be ended.
 */
export async function inTurn<Result>(
  turns: Turns,
  waitsFor: () => Promise<void> | null,
  act: () => Promise<Result>,
): Promise<Result> {
  for (;;) {
    const turn = turns.writing.then(async () => {
      const ended = waitsFor()
      return ended ? { ended } : { result: await act() }
    })
    turns.writing = turn.catch(() => undefined)
    const taken = await turn
    if ('result' in taken) return taken.result as Result
    await taken.ended
  }
}

/** Held while what is live is written. */
const LIVE = 'live'
/** Held while a large change is weighed and written in slices, between which its own process lets others write. */
const LARGE = 'large'

/**
 * Acts when nobody else writes to what is live, in this process or another; whatever others wrote is known by then. While another
 * process writes a large change, this waits for its end.
 *
 * Errors  those of `inTurn`.
 */
export async function inLiveTurn<Result>(
  steppe: Steppe,
  waitsFor: () => Promise<void> | null,
  act: () => Promise<Result>,
): Promise<Result> {
  for (;;) {
    const taken = await inTurn(steppe, waitsFor, () =>
      steppe.locks.hold(LIVE, async () => {
        if (steppe.underWay === null && (await steppe.locks.isHeld(LARGE))) return null
        return { result: await catchUpAnd(steppe, act) }
      }),
    )
    if (taken) return taken.result
    await steppe.locks.hold(LARGE, async () => undefined)
  }
}

/** Has the one large change of all processes begun by whoever acts. */
export function holdLarge<Result>({ locks }: Steppe, act: () => Promise<Result>): Promise<Result> {
  return locks.hold(LARGE, act)
}

/** The same as `inLiveTurn`, for the beginning of a large change, which nobody else writes by then. */
export function beginLarge<Result>(
  steppe: Steppe,
  waitsFor: () => Promise<void> | null,
  act: () => Promise<Result>,
): Promise<Result> {
  return inTurn(steppe, waitsFor, () => steppe.locks.hold(LIVE, () => catchUpAnd(steppe, act)))
}

async function catchUpAnd<Result>(steppe: Steppe, act: () => Promise<Result>): Promise<Result> {
  if (steppe.isShared) {
    // Of a process that ended in the middle of it nothing counted.
    if (steppe.underWay === null) await undoUnfinished(steppe.database)
    await catchUp(steppe)
  }
  return act()
}

/** The large change that touches one of the records, or leaves no number free before its own. */
export function mustWait(steppe: Steppe, requests: readonly ChangeRequest[]): Promise<void> | null {
  const { underWay, lastChangeSet } = steppe
  if (!underWay) return null
  const isBusy =
    lastChangeSet + 1 >= underWay.changeSet ||
    requests.some((request) => underWay.records.has(revisionKey(request)))
  return isBusy ? underWay.ended : null
}
