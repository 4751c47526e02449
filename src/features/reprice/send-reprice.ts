import 'server-only'

import { putIntoDraft, type RepriceWanted } from './put-into-draft'
import type { RepriceLine } from './reprice-progress'

/** Between two lines that say how it comes on, milliseconds. */
const EVERY = 100

class CalledOff extends Error {}

/**
 * Puts amounts into a draft, and tells how it comes on: a line of JSON each, the last one the outcome. Who stops reading
 * calls it off.
 */
export function sendReprice(wanted: RepriceWanted): Response {
  let isCalledOff = false
  const body = new ReadableStream<Uint8Array>({
    async start(controller) {
      const encoder = new TextEncoder()
      const say = (line: RepriceLine) => controller.enqueue(encoder.encode(`${JSON.stringify(line)}\n`))
      let said = 0
      try {
        const outcome = await putIntoDraft(wanted, (step) => {
          if (isCalledOff) throw new CalledOff()
          if (performance.now() - said < EVERY) return
          said = performance.now()
          say(step)
        })
        if (isCalledOff) return
        say(outcome)
        controller.close()
      } catch (error) {
        if (!(error instanceof CalledOff)) controller.error(error)
      }
    },
    cancel() {
      isCalledOff = true
    },
  })
  return new Response(body, {
    headers: { 'content-type': 'application/x-ndjson', 'cache-control': 'no-store' },
  })
}
