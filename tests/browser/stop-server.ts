import { rmSync } from 'node:fs'

export default async function tearDown(): Promise<void> {
  const servers = globalThis.steppeTestServers
  if (!servers) return
  for (const { server } of servers.running) await server.stop()
  for (const folder of [servers.kept, ...servers.running.map(({ data }) => data)])
    rmSync(folder, { recursive: true, force: true })
}
