import 'server-only'

import type { Steppe } from '../engine/steppe'
import type { Turns } from '../engine/under-way'
import { revisionKey } from '../records/record-tables'
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

/** The large change that touches one of the records, or leaves no number free before its own. */
export function mustWait(steppe: Steppe, requests: readonly ChangeRequest[]): Promise<void> | null {
  const { underWay, lastChangeSet } = steppe
  if (!underWay) return null
  const isBusy =
    lastChangeSet + 1 >= underWay.changeSet ||
    requests.some((request) => underWay.records.has(revisionKey(request)))
  return isBusy ? underWay.ended : null
}
