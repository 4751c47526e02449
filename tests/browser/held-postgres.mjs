// A PostgreSQL server for a test that stops it and starts it again: prints its address, then does what each line it is sent says.
import { createInterface } from 'node:readline'
import { ensurePostgres, startPostgres } from '../../scripts/postgres.mjs'

await ensurePostgres()
const server = await startPostgres()
process.stdout.write(`${server.url}\n`)
for await (const line of createInterface({ input: process.stdin })) {
  if (line === 'stop') await server.stop()
  else if (line === 'start') await server.start()
  process.stdout.write(`${line}\n`)
}
await server.remove()
