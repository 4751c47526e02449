import { mkdtempSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { filledDirectory, startServer, type TestServer } from './server'

declare global {
  var steppeTestServer:
    { readonly server: TestServer; readonly data: string; readonly kept: string } | undefined
}

/** One server with the demo store for all browser tests; each test leaves it as it was. */
export default async function setUp(): Promise<void> {
  const kept = mkdtempSync(join(tmpdir(), 'steppe-kept-'))
  process.env['STEPPE_TEST_KEPT'] = kept
  const data = await filledDirectory()
  const server = await startServer(data)
  globalThis.steppeTestServer = { server, data, kept }
  process.env['STEPPE_TEST_URL'] = server.url
}
