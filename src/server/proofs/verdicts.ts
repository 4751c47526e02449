import 'server-only'

import type { PreparedStore } from '@/core/engine/context/prepared-store'
import { isClaimOfCosts } from '@/core/proofs/proof'
import { proveAll, type Verdict } from '@/core/proving/prove'
import { currentInstant } from '../clock'
import { Slices } from '../doors/slices'
import { Remembered } from '../engine/remembered'

/** Kept as long as the store stays as it is, and for an hour: proofs break by the calendar, too. */
const KNOWN = new Remembered<readonly Verdict[]>('verdicts')
const HOUR = 3_600_000

/** Whether each proof of a store holds now; where costs are hidden, of those that tell nothing of them. */
export async function verdictsOf(prepared: PreparedStore): Promise<readonly Verdict[]> {
  if (prepared.whole) {
    const all = await verdictsOf(prepared.whole)
    return prepared.hidesCosts ? all.filter(({ proof }) => !isClaimOfCosts(proof.claim)) : all
  }
  const at = currentInstant().getTime()
  return KNOWN.of({ prepared }, String(Math.floor(at / HOUR)), () => new Slices().run(proveAll(prepared, at)))
}
