import 'server-only'

import { headers } from 'next/headers'
import { DRAFT_HEADER } from '../doors/outer-door'
import { getSteppe } from '../engine/steppe'
import type { View } from './view'
import { getView } from './views'

/** What the page looks at that a request came from, as its address says: what it changes goes there. */
export async function currentView(): Promise<View> {
  const code = (await headers()).get(DRAFT_HEADER)
  return getView(await getSteppe(), !code ? { kind: 'live' } : { kind: 'draft', code })
}
