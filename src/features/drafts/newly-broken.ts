import 'server-only'

import type { DraftView } from '@/server/drafts/draft-impact'
import { verdictsOf } from '@/server/proofs/verdicts'

/** How many proofs hold live and not in the draft. */
export async function newlyBroken({ prepared, draft: { live } }: DraftView): Promise<number> {
  const held = new Set(
    (await verdictsOf(live)).filter(({ state }) => state === 'holds').map(({ proof }) => proof.id),
  )
  return (await verdictsOf(prepared)).filter(
    ({ proof, state }) => held.has(proof.id) && (state === 'broken' || state === 'empty'),
  ).length
}
