import 'server-only'

import { untilUpToDate } from '../changes/follow'
import { getSteppe } from '../engine/steppe'

/** Whether the store is open, and its database answers. */
export async function isReady(): Promise<boolean> {
  return (await untilUpToDate(await getSteppe())) !== 'without-database'
}
