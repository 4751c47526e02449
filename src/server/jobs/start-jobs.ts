import 'server-only'

import { armPublications, PUBLICATIONS, publishInTime } from '../drafts/publication-jobs'
import type { Steppe } from '../engine/steppe'
import { getSettings } from '@/core/store/store'
import { currentInstant } from '../clock'
import { NIGHTLY_PROOFS, runProofs } from '../proofs/proof-runs'
import { resumeImports } from '../imports/import-job'
import { openJobs } from './jobs'

/** At three in the morning, when prices that end at midnight have ended. */
const NIGHTLY = '0 3 * * *'

/** Begins to do what is due, and what was due while the server was down. */
export async function startJobs(steppe: Steppe): Promise<void> {
  const jobs = await openJobs(steppe.database)
  steppe.jobs = jobs
  await jobs.does(PUBLICATIONS, () => publishInTime(steppe))
  await armPublications(steppe)
  // Reading their files again takes a while, which nobody need wait for.
  void resumeImports(steppe).catch((error: unknown) => console.error(error))
  await jobs.does(NIGHTLY_PROOFS, () => runProofs(steppe, currentInstant()))
  if (steppe.prepared) {
    await jobs.every(NIGHTLY_PROOFS, NIGHTLY, getSettings(steppe.prepared.store).timeZone)
    // A store that has never been asked need not wait for the night.
    await jobs.ask(NIGHTLY_PROOFS, { inSeconds: 0 })
  }
}
