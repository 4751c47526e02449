// Several processes behind one port: node scripts/processes.mjs N PROGRAM ARGUMENTS…
// Each is the whole server; the system hands connections to one after the other. One that ends is begun again.
import cluster from 'node:cluster'

const [count, exec, ...args] = process.argv.slice(2)
const AGAIN = 1_000
let isEnding = false

cluster.setupPrimary({ exec, args })
// What is thrown away is thrown away once, by the first.
const { STEPPE_RESET, ...environment } = process.env
delete process.env.STEPPE_RESET

function begin(number, extra = {}) {
  const worker = cluster.fork({ ...environment, ...extra, STEPPE_PROCESS: String(number) })
  worker.on('exit', (code, signal) => {
    if (isEnding) return
    console.error(`Process ${number} of ${count} ended (${signal ?? code}), and is begun again.`)
    setTimeout(() => !isEnding && begin(number), AGAIN)
  })
}

begin(1, STEPPE_RESET ? { STEPPE_RESET } : {})
// The first makes what is not there yet, or throws away what was; the others find it made.
let isMade = false
cluster.on('message', (_worker, said) => {
  if (said !== 'steppe-ready' || isMade) return
  isMade = true
  for (let number = 2; number <= Number(count); number += 1) begin(number)
})

for (const signal of ['SIGTERM', 'SIGINT'])
  process.once(signal, () => {
    isEnding = true
    for (const worker of Object.values(cluster.workers ?? {})) worker?.process.kill('SIGTERM')
  })
