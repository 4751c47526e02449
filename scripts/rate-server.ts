import { createServer, type Server } from 'node:http'
import { type RateMood, simulatedRates } from '../src/demo/reference-rates'

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
