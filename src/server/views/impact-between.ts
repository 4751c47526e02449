import 'server-only'

import type { Sight } from '@/core/engine/context/narrowed'
import type { PreparedStore } from '@/core/engine/context/prepared-store'
import type { ClassImpact } from '@/core/impact/class-impact'
import { findImpact } from '@/core/impact/impact'
import { preparedAsOf } from '../changes/history'
import { Slices } from '../doors/slices'
import { Remembered } from '../engine/remembered'
import type { Steppe } from '../engine/steppe'
import { shownIn } from './view'

const KNOWN = new Remembered<readonly ClassImpact[]>('impacts-between')

/** What moved, or is going to move by the calendar, between two instants. */
export interface ImpactBetween {
  readonly before: PreparedStore
  readonly after: PreparedStore
  readonly impacts: readonly ClassImpact[]
}

/** The past is the store as it was; what lies ahead is the store as it stands, at that instant. */
export async function impactBetween(
  steppe: Steppe,
  since: Date,
  until: Date,
  sight: Sight | undefined,
): Promise<ImpactBetween> {
  const asOf = async (at: Date) => {
    const prepared = await preparedAsOf(steppe, at)
    return shownIn({ sight }, prepared)
  }
  const [before, after] = [await asOf(since), await asOf(until)]
  const [atBefore, at] = [since.getTime(), until.getTime()]
  const impacts = await KNOWN.of({ prepared: after }, `${atBefore}/${at}`, () =>
    new Slices().run(findImpact({ before, after, at, atBefore, channel: null }, null)),
  )
  return { before, after, impacts }
}
