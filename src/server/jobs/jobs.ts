import 'server-only'

import PgBoss from 'pg-boss'
import type { OpenDatabase } from '../database/database'
import { log } from '../operations/log'

/** Work that is done when its time comes, once, though the server is stopped and started in between. */
export interface Jobs {
  /** Says how work of a name is done. */
  does(name: string, work: (data: object) => Promise<void>): Promise<void>
  /** Asks for work to be done in so many seconds from now. What is asked twice is done twice: work knows what is done. */
  ask(name: string, request: JobRequest): Promise<void>
  /** Asks for work every time a five-field cron expression comes round in a time zone. */
  every(name: string, cron: string, timeZone: string): Promise<void>
  /** Lets what is being done end, and begins nothing any more. */
  stop(): Promise<void>
}

interface JobRequest {
  readonly inSeconds: number
  readonly data?: object
}

/** How often it is looked whether anything is due. */
const POLLING_SECONDS = 1
/** pg-boss takes no longer delay than the database's integers hold. */
const LONGEST_DELAY = 2 ** 31 - 1
const LONGEST_JOB_HOURS = 1

/** The jobs of a store, kept in a schema of their own in its database. */
export async function openJobs({ raw, locks }: Pick<OpenDatabase, 'raw' | 'locks'>): Promise<Jobs> {
  const boss = new PgBoss({
    schema: 'job',
    db: {
      executeSql: (text, values = []) =>
        values.length > 0 ? raw.query(text, values) : raw.script(withoutTransaction(text)),
    },
    retryLimit: 3,
    retryDelay: 5,
    expireInHours: LONGEST_JOB_HOURS,
  })
  boss.on('error', (error) => log.error({ err: error }, 'jobs are in trouble'))
  await locks.hold('jobs', () => boss.start())
  return {
    does: async (name, work) => {
      await locks.hold('jobs', async () => {
        await boss.createQueue(name)
        // What was being done by a process that is gone is done by nobody.
        if (!(await locks.isHeld(lockOf(name))))
          await raw.query(
            `update job.job set state = 'retry', start_after = now() where state = 'active' and name = $1`,
            [name],
          )
      })
      await boss.work<object>(name, { pollingIntervalSeconds: POLLING_SECONDS }, async ([job]) => {
        // Work of a name is done by one process at a time.
        if (job) await locks.hold(lockOf(name), () => work(job.data))
      })
    },
    ask: async (name, { inSeconds, data = {} }) => {
      const startAfter = Math.min(LONGEST_DELAY, Math.max(0, Math.ceil(inSeconds)))
      await boss.send(name, data, { startAfter })
    },
    every: (name, cron, timeZone) => boss.schedule(name, cron, {}, { tz: timeZone }),
    stop: () => boss.stop({ graceful: true, wait: true, close: false, timeout: 10_000 }),
  }
}

function lockOf(name: string): string {
  return `job ${name}`
}

/** pg-boss begins and ends transactions inside one text; one that failed would leave the connection in the middle of it. */
function withoutTransaction(text: string): string {
  return text.replace(/^\s*BEGIN\s*;/i, '').replace(/COMMIT\s*;?\s*$/i, '')
}
