// Loaded before a server whose memory is measured: at SIGUSR2 it clears away all garbage and prints what is left of its heap.
import { setFlagsFromString } from 'node:v8'
import { runInNewContext } from 'node:vm'

setFlagsFromString('--expose-gc')
const collect = runInNewContext('gc')

process.on('SIGUSR2', () => {
  collect()
  // What only a finalizer or a weak reference held is gone at the second time.
  setImmediate(() => {
    collect()
    process.stderr.write(`heap in use: ${process.memoryUsage().heapUsed}\n`)
  })
})
