import 'server-only'

import { getSettings } from '@/core/store/store'
import { beganAt } from '@/server/changes/price-course'
import type { RequestContext } from '@/server/engine/request-context'
import { impactBetween } from '@/server/views/impact-between'
import { formatMoment } from '@/ui/format/instant'
import { betweenHref } from '@/ui/frame/between-href'
import { parseBetween } from './between-url'
import { loadImpact } from './load-impact'
import type { ReviewShown } from '../review/review-url'
import type { ImpactView } from '../review/review-view'

export interface BetweenView extends ImpactView {
  /** ISO 8601. */
  readonly since: string
  readonly until: string
  readonly timeZone: string
  /** What to know of the instants; empty for nothing. */
  readonly note: string
}

/** What moved, or is going to move, for whom between two instants. */
export async function loadBetween(
  { steppe, view, now }: Pick<RequestContext, 'steppe' | 'view' | 'now'>,
  fields: Readonly<Record<string, string | undefined>>,
  shown: ReviewShown,
): Promise<BetweenView> {
  const { timeZone } = getSettings(view.prepared.store)
  const began = await beganAt(steppe)
  const asked = parseBetween(fields, now)
  // Before there was a store nobody paid anything.
  const since = new Date(Math.max(asked.since.getTime(), began))
  const until = new Date(Math.max(asked.until.getTime(), began))
  const { before, after, impacts } = await impactBetween(steppe, since, until, view.sight)
  const about = {
    address: betweenHref(since, until),
    names: [formatMoment(since.getTime(), timeZone), formatMoment(until.getTime(), timeZone)],
    exportHref: `/api/impact?since=${since.toISOString()}&until=${until.toISOString()}`,
  } as const
  const impact = await loadImpact({ steppe, before: before.store, after: after.store, impacts }, about, shown)
  return {
    ...impact,
    since: since.toISOString(),
    until: until.toISOString(),
    timeZone,
    note:
      asked.since.getTime() < began
        ? `The store began on ${formatMoment(began, timeZone)}: it is compared from there.`
        : until.getTime() > now
          ? 'What lies ahead is the store as it stands today, at that time: what starts and ends by then moves prices.'
          : '',
  }
}
