import 'server-only'

import { getSteppe } from '../engine/steppe'
import { liveView, type View } from './view'

/** What the page looks at that a request came from: what it changes goes there. */
export async function currentView(): Promise<View> {
  return liveView(await getSteppe())
}
