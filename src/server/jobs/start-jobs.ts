import 'server-only'

import { armPublications, PUBLICATIONS, publishInTime } from '../drafts/publication-jobs'
import type { Steppe } from '../engine/steppe'
import { openJobs } from './jobs'

/** Begins to do what is due, and what was due while the server was down. */
export async function startJobs(steppe: Steppe): Promise<void> {
  const jobs = await openJobs(steppe.database)
  steppe.jobs = jobs
  await jobs.does(PUBLICATIONS, () => publishInTime(steppe))
  await armPublications(steppe)
}
