import 'server-only'

import { currentInstant } from '../clock'
import type { Steppe } from '../engine/steppe'
import { nextDue, publishDue } from './publish-draft'

/** The jobs that publish drafts whose time has come. */
export const PUBLICATIONS = 'publications'

/** Asks to be woken when the next planned draft is due, or at once for one that should have been published already. */
export async function armPublications(steppe: Steppe): Promise<void> {
  const next = await nextDue(steppe)
  if (next === null) return
  const inSeconds = (next.getTime() - currentInstant().getTime()) / 1_000
  await steppe.jobs?.ask(PUBLICATIONS, { inSeconds })
}

/** Publishes what is due, and waits for the next. */
export async function publishInTime(steppe: Steppe): Promise<void> {
  if (steppe.prepared) await publishDue(steppe, currentInstant())
  await armPublications(steppe)
}
