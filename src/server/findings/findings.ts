import 'server-only'

import type { PreparedStore } from '@/core/engine/context/prepared-store'
import { findFindings, type FoundFindings } from '@/core/finding/find-findings'
import { sharedMemory } from '@/core/maps/shared-memory'
import { buyerContext } from '@/core/engine/context/buyer-context'
import type { PastFacts } from '@/core/finding/past'
import { findInPublished } from '@/core/finding/published'
import { currentInstant } from '../clock'
import { Slices } from '../doors/slices'
import { Remembered } from '../engine/remembered'
import type { Steppe } from '../engine/steppe'
import { knownService } from '../rates/rate-service'
import { priorPrices } from '../shop/prior-prices'
import { soldSince } from '../shop/sold-since'
import type { View } from '../views/view'

const KNOWN = new Remembered<FoundFindings>('findings')
const HOUR = 3_600_000
const DAY = 24 * HOUR
/** What was not sold for so long is not selling (common practice, no source). */
const SOLD_DAYS = 90

/** What was found last, so that after an edit only what it touches is looked at again. */
const LAST = sharedMemory('last-findings', (): { found: FoundFindings | null } => ({ found: null }))

/** Everything worth a look in a store, as of this hour. */
export async function findingsOf({
  steppe,
  prepared,
}: Pick<View, 'steppe' | 'prepared'>): Promise<FoundFindings> {
  const at = thisHour()
  const found = await KNOWN.of({ prepared }, String(at), async () => {
    const facts = await pastFacts(steppe, at)
    const looked = await new Slices().run(findFindings({ prepared, at }, LAST.found, facts))
    LAST.found = looked
    return looked
  })
  // What is published comes at any minute, and is quickly looked at.
  const published = findInPublished({ prepared, at: currentInstant().getTime() }, await knownService(steppe))
  return published.length === 0 ? found : { ...found, past: [...found.past, ...published] }
}

async function pastFacts(steppe: Steppe, at: number): Promise<PastFacts> {
  const ever = await soldSince(steppe, new Date(0))
  const sold = await soldSince(steppe, new Date(at - SOLD_DAYS * DAY))
  const guests = buyerContext({ kind: 'guest' }, currentInstant().getTime())
  return {
    sold: ever.size === 0 ? null : new Set(sold.keys()),
    priorPrices: await priorPrices(steppe, guests),
  }
}

/** Whether they need not be looked for. */
export function knowsFindings(prepared: PreparedStore): boolean {
  return KNOWN.has({ prepared }, String(thisHour()))
}

function thisHour(): number {
  return Math.floor(currentInstant().getTime() / HOUR) * HOUR
}
