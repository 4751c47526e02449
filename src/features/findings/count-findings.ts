import 'server-only'

import { isAboutCosts } from '@/core/finding/finding'
import { worstFirst } from '@/core/finding/find-findings'
import type { RequestContext } from '@/server/engine/request-context'
import { findingsOf, knowsFindings } from '@/server/findings/findings'
import { mutesAt } from '@/server/findings/mutes'

/** In a larger store they are counted once somebody has looked at them: finding them takes long there. */
const MOST_VARIANTS = 10_000

/** How many findings there are that nobody has muted; `null` where it is not known yet. */
export async function countFindings({ view, steppe, now }: RequestContext): Promise<number | null> {
  const { prepared } = view
  if (prepared.index.variantCount > MOST_VARIANTS && !knowsFindings(prepared)) return null
  const mutes = await mutesAt(steppe, new Date(now))
  return worstFirst(await findingsOf(view)).filter(
    ({ key, code }) => !mutes.has(key) && (!view.sight?.hidesCosts || !isAboutCosts(code)),
  ).length
}
