import { openRoute } from '@/server/session/permit'

/** Whether this process runs; it asks nothing else. */
export const GET = openRoute('says that the process runs, and nothing else', () =>
  Response.json({ status: 'ok' }),
)
