// `npm run load`: what the shop bears, served by one, two and four processes on a PostgreSQL server of its own, all on this machine.
// npm run load -- --seconds 60 --rate 40 --processes 1,2,4 --minutes 10
import autocannon from 'autocannon'
import { spawn } from 'node:child_process'
import { mkdtempSync, readdirSync, readFileSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { parseArgs } from 'node:util'
import pg from 'pg'
import { build, root, serving, untilAnswering } from './shared.mjs'
import { freePort, startPostgres } from './postgres.mjs'

const { values } = parseArgs({
  options: {
    /** How long each is measured. */
    seconds: { type: 'string', default: '60' },
    /** Requests a second of the mixed traffic. */
    rate: { type: 'string', default: '40' },
    processes: { type: 'string', default: '1,2,4' },
    /** Minutes of mixed traffic after that, with the memory of each. */
    minutes: { type: 'string', default: '0' },
  },
})
const SECONDS = Number(values.seconds)
const RATE = Number(values.rate)
const MINUTES = Number(values.minutes)
const COUNTS = values.processes.split(',').map(Number)
const CONNECTIONS = 10
/** Questions in one request, and requests a second: 500 questions a second. */
const BATCH = 50
const BATCHES = 10

const listing = { method: 'GET', path: '/shop/category/jars' }
const product = { method: 'GET', path: '/shop/product/FR-BR' }
const cart = { method: 'GET', path: '/shop/cart' }
const price = { method: 'GET', path: '/api/shop/price?sku=FR-BR-PF&quantity=12' }
const questions = JSON.stringify(
  Array.from({ length: BATCH }, (_, at) => ({
    ...{ id: String(at), as: at % 2 ? { guest: true } : { group: 'bee-farms' } },
    ...{ sku: 'FR-BR-PF', quantity: String(1 + at) },
  })),
)
const asking = {
  method: 'POST',
  path: '/api/prices',
  headers: { 'content-type': 'application/json' },
  body: questions,
}

/** Requests at a steady rate, whether answers come quickly or not. */
function measure(url, requests, rate, seconds = SECONDS) {
  return autocannon({
    url,
    connections: CONNECTIONS,
    overallRate: rate,
    duration: seconds,
    requests,
    timeout: 20,
  })
}

/** Megabytes in memory of a process and all it has begun. */
function megabytes(id) {
  const children = readdirSync('/proc')
    .filter((name) => /^\d+$/.test(name))
    .filter((name) => {
      try {
        return readFileSync(`/proc/${name}/stat`, 'utf8').split(') ')[1].split(' ')[1] === String(id)
      } catch {
        return false
      }
    })
  const own = Number(/VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${id}/status`, 'utf8'))?.[1] ?? 0) / 1_024
  return children.reduce((sum, child) => sum + megabytes(child), own)
}

function line(name, { latency, requests, non2xx, errors, timeouts }) {
  const bad = non2xx + errors + timeouts
  console.log(
    `  ${name.padEnd(34)} ${requests.average.toFixed(1).padStart(7)} a second   median ${latency.p50} ms   p99 ${latency.p99} ms${bad > 0 ? `   ${bad} failed` : ''}`,
  )
  return latency.p99
}

await build()
const server = await startPostgres()
const admin = new pg.Client({ connectionString: server.url })
await admin.connect()
try {
  for (const processes of COUNTS) {
    const data = mkdtempSync(join(tmpdir(), 'steppe-load-'))
    const name = `load_${processes}`
    await admin.query(`create database ${name}`)
    const port = await freePort()
    const { command, args, environment } = serving({ data, port, demo: true, processes })
    const child = spawn(command, args, {
      cwd: root,
      env: { ...process.env, ...environment, DATABASE_URL: server.url.replace(/[^/]*$/, name) },
      stdio: ['ignore', 'ignore', 'inherit'],
    })
    const ended = new Promise((resolve) => child.once('exit', resolve))
    await untilAnswering(port, () => child.exitCode !== null)
    const url = `http://127.0.0.1:${port}`
    // Every process has made its first answers.
    await measure(url, [listing, product, cart, price, asking], RATE / 2, 15)
    console.log(
      `${processes} ${processes === 1 ? 'process' : 'processes'}, ${RATE} requests a second, ${SECONDS} s each`,
    )
    const before = megabytes(child.pid)
    const empty = line('an empty route', await measure(url, [{ method: 'GET', path: '/health' }], RATE))
    const mixed = line(
      'listing, product, cart, question',
      await measure(url, [listing, product, cart, price], RATE),
    )
    line(`500 questions a second in ${BATCH}s`, await measure(url, [asking], BATCHES))
    const most = await autocannon({
      url,
      connections: CONNECTIONS,
      duration: Math.min(SECONDS, 20),
      requests: [product],
    })
    line('as many products as it can', most)
    console.log(
      `  p99 of the mixed traffic: ${(mixed / Math.max(1, empty)).toFixed(1)} × that of the empty route (≤ 10)`,
    )
    console.log(`  memory ${before.toFixed(0)} MB before, ${megabytes(child.pid).toFixed(0)} MB after`)
    const each = []
    for (let minute = 0; minute < MINUTES; minute += 1) {
      await measure(url, [listing, product, cart, price], RATE, 60)
      each.push(megabytes(child.pid).toFixed(0))
    }
    if (MINUTES > 0) console.log(`  memory after each minute of mixed traffic: ${each.join(', ')} MB`)
    child.kill('SIGTERM')
    await ended
    rmSync(data, { recursive: true, force: true })
  }
} finally {
  await admin.end()
  await server.remove()
}
