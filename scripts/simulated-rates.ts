// `npm run simulated-rates -- --port 4010 --mood late`: a stand-in for a service of reference rates, to point STEPPE_RATES at.
import { parseArgs } from 'node:util'
import { RATE_MOODS } from '../src/demo/reference-rates'
import { serveRates } from './rate-server'

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
