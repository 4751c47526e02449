import 'server-only'

import type { PreparedStore } from '@/core/engine/context/prepared-store'
import { proveAll, type Verdict } from '@/core/proving/prove'
import { currentInstant } from '../clock'
import { Slices } from '../doors/slices'
import { Remembered } from '../engine/remembered'

/** Kept as long as the store stays as it is, and for an hour: proofs break by the calendar, too. */
const KNOWN = new Remembered<readonly Verdict[]>('verdicts')
const HOUR = 3_600_000

/** Whether each proof of a store holds now. */
export function verdictsOf(prepared: PreparedStore): Promise<readonly Verdict[]> {
  const at = currentInstant().getTime()
  return KNOWN.of({ prepared }, String(Math.floor(at / HOUR)), () => new Slices().run(proveAll(prepared, at)))
}
