import 'server-only'

import { headers } from 'next/headers'
import { DRAFT_HEADER } from '../doors/outer-door'
import { getSteppe } from '../engine/steppe'
import { isChangedByDraft, type View } from './view'
import { getView } from './views'

/**
 * What the page looks at that a request came from, as its address says: what it changes goes there, unless that is what is live
 * in a store that is changed by drafts.
 */
export async function currentView(): Promise<View> {
  const code = (await headers()).get(DRAFT_HEADER)
  const view = await getView(await getSteppe(), !code ? { kind: 'live' } : { kind: 'draft', code })
  return view.draft === null && isChangedByDraft(view) ? { ...view, isGuarded: true } : view
}
