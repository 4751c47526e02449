import { isReady } from '@/server/operations/readiness'
import { openRoute } from '@/server/session/permit'

/** Whether this process can answer: 503 while its database does not. */
export const GET = openRoute('says whether the database answers, and nothing else', async () => {
  const ready = await isReady()
  return Response.json({ status: ready ? 'ready' : 'database-gone' }, { status: ready ? 200 : 503 })
})
