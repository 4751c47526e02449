// Holds a directory for the process that started it: a lock that says every few seconds that its holder lives. It runs
// in a thread of its own, because the main one is sometimes busy for longer than the lock may be silent.
import lockfile from 'proper-lockfile'
import { parentPort, workerData } from 'node:worker_threads'

const { directory, stale, update } = workerData
const options = {
  lockfilePath: `${directory}/lock`,
  stale,
  update,
  onCompromised: (error) => parentPort.postMessage({ kind: 'lost', message: error.message }),
}

try {
  const release = await lockfile.lock(directory, options)
  parentPort.on('message', async () => {
    await release().catch(() => undefined)
    parentPort.postMessage({ kind: 'released' })
    parentPort.close()
  })
  parentPort.postMessage({ kind: 'locked' })
} catch (error) {
  parentPort.postMessage({ kind: error.code === 'ELOCKED' ? 'in-use' : 'failed', message: error.message })
  parentPort.close()
}
