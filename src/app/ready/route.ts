import { isReady } from '@/server/operations/readiness'
import { startProgress } from '@/server/operations/start-progress'
import { openRoute } from '@/server/session/permit'

/** Whether this process can answer: 503 while it starts, and while its database does not answer. */
export const GET = openRoute('says whether the store is there, and nothing else', async () => {
  if (startProgress().step !== 'ready') return Response.json({ status: 'starting' }, { status: 503 })
  const ready = await isReady()
  return Response.json({ status: ready ? 'ready' : 'database-gone' }, { status: ready ? 200 : 503 })
})
