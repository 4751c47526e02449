import 'server-only'

import { desc } from 'drizzle-orm'
import { proofRuns } from '../database/schema'
import type { Steppe } from '../engine/steppe'
import { verdictsOf } from './verdicts'

/** The job that asks all proofs as the calendar moves on: one can break because a list ends. */
export const NIGHTLY_PROOFS = 'proofs'

/** Asks every proof of what is live, and notes down those that came to something else than the time before. */
export async function runProofs(steppe: Steppe, at: Date): Promise<void> {
  const { prepared, database } = steppe
  if (!prepared) return
  const before = new Map((await latestRuns(steppe)).map((run) => [run.proof, run]))
  const rows = (await verdictsOf(prepared)).flatMap(({ proof, state, checked, held }) =>
    before.get(proof.id)?.state === state ? [] : [{ proof: proof.id, at, state, checked, held }],
  )
  if (rows.length === 0) return
  await database.insert(proofRuns).values(rows).onConflictDoNothing()
  steppe.sync()
}

/** Since when each proof is what it is, as far as it was asked. */
export async function latestRuns({ database }: Steppe) {
  return database
    .selectDistinctOn([proofRuns.proof])
    .from(proofRuns)
    .orderBy(proofRuns.proof, desc(proofRuns.at))
}
