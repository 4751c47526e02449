import 'server-only'

import { headers } from 'next/headers'
import { DRAFT_HEADER } from '../doors/outer-door'
import { getSteppe } from '../engine/steppe'
import { isChangedByDraft, type View } from './view'
import { findDoer } from '../session/doer'
import { viewAs } from './view-as'
import { getView } from './views'

/**
 * What the page looks at that a request came from, as its address says: what it changes goes there, unless that is what is live
 * in a store that is changed by drafts, or for somebody who changes nothing else.
 */
export async function currentView(): Promise<View> {
  const code = (await headers()).get(DRAFT_HEADER)
  const doer = await findDoer()
  const found = await getView(await getSteppe(), !code ? { kind: 'live' } : { kind: 'draft', code })
  const view = viewAs(doer, found)
  const isByDraft = isChangedByDraft(view) || doer?.permissions.has('live:edit') !== true
  return view.draft === null && isByDraft ? { ...view, isGuarded: true } : view
}
