import 'server-only'

import { preparedAsOf } from '../changes/history'
import { draftView } from '../drafts/draft-view'
import type { Steppe } from '../engine/steppe'
import { liveView, type Source, type View } from './view'

/**
 * The one way to a prepared store: what is live, what was live, or a draft as if it were live. A draft that is not there
 * (any more) is looked at as live, and says so: nothing can be changed through it.
 *
 * Errors  throws `RangeError` on a store that has not been set up.
 */
export async function getView(steppe: Steppe, source: Source): Promise<View> {
  if (source.kind === 'live') return liveView(steppe)
  if (source.kind === 'instant')
    return { ...liveView(steppe), prepared: await preparedAsOf(steppe, source.at) }
  return (await draftView(steppe, source.code)) ?? { ...liveView(steppe), missing: source.code }
}
