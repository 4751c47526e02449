import { mkdtempSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { startServer, type TestServer } from './server'

declare global {
  var steppeTestServer: { readonly server: TestServer; readonly data: string } | undefined
}

/** One server with the demo store for all browser tests; each test leaves it as it was. */
export default async function setUp(): Promise<void> {
  const data = mkdtempSync(join(tmpdir(), 'steppe-browser-'))
  const server = await startServer(data)
  globalThis.steppeTestServer = { server, data }
  process.env['STEPPE_TEST_URL'] = server.url
}
