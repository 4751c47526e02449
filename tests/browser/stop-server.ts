import { rmSync } from 'node:fs'

export default async function tearDown(): Promise<void> {
  const running = globalThis.steppeTestServer
  if (!running) return
  await running.server.stop()
  rmSync(running.data, { recursive: true, force: true })
}
