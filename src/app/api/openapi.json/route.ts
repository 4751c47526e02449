import { openApi } from '@/server/exchange/description/openapi'
import { openRoute } from '@/server/session/permit'

/** What programs can ask, described for machines. */
export const GET = openRoute('describes addresses, and tells nothing of the store', () =>
  Response.json(openApi()),
)
