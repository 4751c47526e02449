import { commit } from '@/server/changes/commit'
import { openSteppe } from '@/server/engine/steppe'
import { setTimeout } from 'node:timers/promises'
import { repriced } from './many-records'
import { liveTarget } from '@/server/views/view'

/** How long it stays at a place for whoever wants to kill it there, in milliseconds. */
const TO_BE_KILLED_IN = 300

/** A process that changes many products at once, and says how far it is until it is killed. */
async function main(directory: string, count: number, price: string): Promise<void> {
  const steppe = await openSteppe(directory)
  const note = { author: 'Writer', note: price, at: new Date(0) }
  const outcome = await commit(
    liveTarget(steppe),
    repriced(steppe, count, price),
    note,
    async (stage, done) => {
      if (stage !== 'writing') return
      process.stdout.write(`${done}\n`)
      await setTimeout(TO_BE_KILLED_IN)
    },
  )
  process.stdout.write(`${outcome.ok ? 'done' : outcome.code}\n`)
  await steppe.close()
}

main(process.argv[2] as string, Number(process.argv[3]), process.argv[4] as string).catch(
  (error: unknown) => {
    console.error(error)
    process.exit(1)
  },
)
