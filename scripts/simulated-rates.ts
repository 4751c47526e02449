// `npm run simulated-rates -- --port 4010 --mood late`: a stand-in for a service of reference rates, to point STEPPE_RATES at.
import { createServer, type Server } from 'node:http'
import { parseArgs } from 'node:util'
import { pathToFileURL } from 'node:url'
import { RATE_MOODS, type RateMood, simulatedRates } from '../src/demo/reference-rates'

/** Working days in the longer of the two files. */
const NINETY_DAYS = 64

/** Serves `/daily.xml` and `/hist-90d.xml` on this machine; `down` answers 503. `mood` is asked each time. */
export function serveRates(
  port: number,
  mood: () => RateMood | 'down',
  now: () => number = Date.now,
): Promise<Server> {
  const server = createServer(({ url }, answer) => {
    const is = mood()
    if (is === 'down') return void answer.writeHead(503).end()
    const days = url === '/daily.xml' ? 1 : url === '/hist-90d.xml' ? NINETY_DAYS : 0
    if (days === 0) return void answer.writeHead(404).end()
    answer.writeHead(200, { 'content-type': 'text/xml' }).end(simulatedRates(now(), days, is))
  })
  return new Promise((resolve, reject) => {
    server.once('error', reject)
    server.listen(port, '127.0.0.1', () => resolve(server))
  })
}

if (import.meta.url === pathToFileURL(process.argv[1] ?? '').href) {
  const { values } = parseArgs({
    options: { port: { type: 'string', default: '4010' }, mood: { type: 'string', default: 'well' } },
  })
  const mood = [...RATE_MOODS, 'down' as const].find((each) => each === values.mood)
  if (!mood) {
    console.error(`--mood ${values.mood}: one of ${RATE_MOODS.join(', ')}, down`)
    process.exit(2)
  }
  await serveRates(Number(values.port), () => mood)
  console.log(`Made-up reference rates at http://127.0.0.1:${values.port}/daily.xml and /hist-90d.xml`)
}
