import type { Config } from 'jest'
import { mkdtempSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { filledDirectory, startServer, type TestServer } from './server'

declare global {
  var steppeTestServers:
    | { readonly kept: string; readonly running: { readonly server: TestServer; readonly data: string }[] }
    | undefined
}

/** A server with the demo store for the browser tests of each of Jest's workers; each test leaves it as it was. */
export default async function setUp({ maxWorkers }: Config.GlobalConfig): Promise<void> {
  const kept = mkdtempSync(join(tmpdir(), 'steppe-kept-'))
  process.env['STEPPE_TEST_KEPT'] = kept
  const running: { server: TestServer; data: string }[] = []
  globalThis.steppeTestServers = { kept, running }
  for (let worker = 1; worker <= maxWorkers; worker += 1) {
    const data = await filledDirectory()
    const server = await startServer(data)
    running.push({ server, data })
    process.env[`STEPPE_TEST_URL_${worker}`] = server.url
  }
}
