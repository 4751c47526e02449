import { measuresText } from '@/server/operations/measures'
import { getSteppe } from '@/server/engine/steppe'
import { machineRoute } from '@/server/session/permit'

/** What is measured, for a Prometheus server. */
export const GET = machineRoute(
  { scope: 'measures:read', permission: 'audit:look' },
  async () =>
    new Response(await measuresText(await getSteppe()), {
      headers: { 'content-type': 'text/plain; version=0.0.4; charset=utf-8', 'cache-control': 'no-store' },
    }),
)
