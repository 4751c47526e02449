import { rmSync } from 'node:fs'

export default async function tearDown(): Promise<void> {
  const running = globalThis.steppeTestServer
  if (!running) return
  await running.server.stop()
  for (const folder of [running.data, running.kept]) rmSync(folder, { recursive: true, force: true })
}
