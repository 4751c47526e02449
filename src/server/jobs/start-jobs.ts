import 'server-only'

import { armPublications, PUBLICATIONS, publishInTime } from '../drafts/publication-jobs'
import type { Steppe } from '../engine/steppe'
import { getSettings } from '@/core/store/store'
import { currentInstant } from '../clock'
import { NIGHTLY_PROOFS, runProofs } from '../proofs/proof-runs'
import { resumeImports } from '../imports/import-job'
import { MAILS } from '../mails/queue-mail'
import { sendMails, type WriteMail } from '../mails/send-mails'
import { RATES_ARE_THERE, RATES_ZONE, REFERENCE_RATES, refreshRates } from '../rates/rate-service'
import { ratesAddress } from '../rates/fetch-rates'
import { watchOffers } from '../quotes/quote-clock'
import { openJobs } from './jobs'
import { log } from '../operations/log'

/** At three in the morning, when prices that end at midnight have ended. */
const NIGHTLY = '0 3 * * *'

/** A few minutes past each hour: offers end with their day, wherever that is. */
const HOURLY = '3 * * * *'
const OFFERS = 'offers'

/** Begins to do what is due, and what was due while the server was down. */
export async function startJobs(steppe: Steppe, writeMail: WriteMail): Promise<void> {
  const jobs = await openJobs(steppe)
  steppe.jobs = jobs
  await jobs.does(PUBLICATIONS, () => publishInTime(steppe))
  await armPublications(steppe)
  // Reading their files again takes a while, which nobody need wait for.
  void resumeImports(steppe).catch((error: unknown) =>
    log.error({ err: error }, 'an import could not be gone on with'),
  )
  await jobs.does(NIGHTLY_PROOFS, () => runProofs(steppe, currentInstant()))
  await jobs.does(MAILS, () => sendMails(steppe, writeMail))
  await jobs.ask(MAILS, { inSeconds: 0 })
  await jobs.does(OFFERS, async () => {
    await watchOffers(steppe, currentInstant())
  })
  // What ended while the server was down has ended.
  await jobs.ask(OFFERS, { inSeconds: 0 })
  await jobs.does(REFERENCE_RATES, async () => {
    await refreshRates(steppe, currentInstant())
  })
  if (steppe.prepared) {
    if (ratesAddress() !== null) {
      await jobs.every(REFERENCE_RATES, RATES_ARE_THERE, RATES_ZONE)
      // Whatever was published while the server was down.
      await jobs.ask(REFERENCE_RATES, { inSeconds: 0 })
    }
    await jobs.every(OFFERS, HOURLY, getSettings(steppe.prepared.store).timeZone)
    await jobs.every(NIGHTLY_PROOFS, NIGHTLY, getSettings(steppe.prepared.store).timeZone)
    // A store that has never been asked need not wait for the night.
    await jobs.ask(NIGHTLY_PROOFS, { inSeconds: 0 })
  }
}
