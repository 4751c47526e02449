import 'server-only'

import type { PreparedStore } from '@/core/engine/context/prepared-store'
import { findFindings, type FoundFindings } from '@/core/finding/find-findings'
import { sharedMemory } from '@/core/maps/shared-memory'
import { currentInstant } from '../clock'
import { Slices } from '../doors/slices'
import { Remembered } from '../engine/remembered'

const KNOWN = new Remembered<FoundFindings>('findings')
const HOUR = 3_600_000

/** What was found last, so that after an edit only what it touches is looked at again. */
const LAST = sharedMemory('last-findings', (): { found: FoundFindings | null } => ({ found: null }))

/** Everything worth a look in a store, as of this hour. */
export function findingsOf(prepared: PreparedStore): Promise<FoundFindings> {
  const at = thisHour()
  return KNOWN.of({ prepared }, String(at), async () => {
    const found = await new Slices().run(findFindings({ prepared, at }, LAST.found))
    LAST.found = found
    return found
  })
}

/** Whether they need not be looked for. */
export function knowsFindings(prepared: PreparedStore): boolean {
  return KNOWN.has({ prepared }, String(thisHour()))
}

function thisHour(): number {
  return Math.floor(currentInstant().getTime() / HOUR) * HOUR
}
