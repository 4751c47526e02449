import 'server-only'

import { CannotOpenError } from './database/cannot-open'
import { seedDemo } from './changes/seed-demo'
import { makeReady } from './engine/make-ready'
import { seedSales } from './orders/seed-sales'
import type { WriteMail } from './mails/send-mails'
import { startJobs } from './jobs/start-jobs'
import { closeSteppe, getSteppe, type Steppe } from './engine/steppe'
import { followOthers, untilUpToDate } from './changes/follow'
import { noteStart } from './operations/start-progress'
import { keepSnapshot } from './snapshot/keep-snapshot'
import { isDoorOpen } from './session/doer'
import { isFirstStart, makeFirstCode } from './staff/first-start'

/** Of several, the one that does what one does for all. */
function isFirstProcess(): boolean {
  return (process.env['STEPPE_PROCESS'] ?? '1') === '1'
}

async function begin(steppe: Steppe): Promise<void> {
  await untilUpToDate(steppe)
  const demo = process.env['STEPPE_DEMO']
  if (demo && steppe.prepared === null) {
    noteStart('filling')
    await seedDemo(steppe)
    // Tests begin without: what they order is all there is.
    if (demo === 'with-orders') await seedSales(steppe)
  }
  if (isFirstProcess() && !isDoorOpen('localhost') && (await isFirstStart(steppe.database)))
    console.error(
      `\n  Nobody owns this store yet. To become its owner, open it and type this code:  ${await makeFirstCode(steppe.database)}\n`,
    )
}

/** Opens the store when the server starts, fills it with the demo if asked to, and closes it when it stops. */
export async function start(writeMail: WriteMail): Promise<void> {
  try {
    const steppe = await getSteppe()
    await followOthers(steppe)
    // Of processes that start together the first does this, for all of them.
    await steppe.locks.hold('start', () => begin(steppe))
    if (steppe.prepared) await makeReady(steppe.prepared)
    await startJobs(steppe, writeMail)
    noteStart('ready')
    // Of several processes the others begin when the first is there.
    process.send?.('steppe-ready')
    if (isFirstProcess()) void keepSnapshot(steppe)
  } catch (error) {
    console.error(error instanceof CannotOpenError ? error.message : error)
    process.exit(1)
  }
  for (const signal of ['SIGTERM', 'SIGINT'] as const) {
    process.once(signal, () => {
      closeSteppe().then(
        () => process.exit(0),
        () => process.exit(1),
      )
    })
  }
}
