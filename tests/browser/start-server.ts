import { mkdtempSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { filledDirectory, keepFilled, startServer, type TestServer } from './server'

declare global {
  var steppeTestServers:
    | { readonly kept: string; readonly running: { readonly server: TestServer; readonly data: string }[] }
    | undefined
}

/** A server with the demo store for the browser tests of each of Jest's workers; each test leaves it as it was. */
export default async function setUp({ maxWorkers }: { readonly maxWorkers: number }): Promise<void> {
  const kept = mkdtempSync(join(tmpdir(), 'steppe-kept-'))
  process.env['STEPPE_TEST_KEPT'] = kept
  const running: { server: TestServer; data: string }[] = []
  globalThis.steppeTestServers = { kept, running }
  // Two workers would fill the same directory at once.
  if (maxWorkers > 1) for (const isDemo of [false, 'with-orders'] as const) await keepFilled(isDemo)
  for (let worker = 1; worker <= maxWorkers; worker += 1) {
    const data = await filledDirectory()
    const server = await startServer(data)
    running.push({ server, data })
    process.env[`STEPPE_TEST_URL_${worker}`] = server.url
  }
}
