import 'server-only'

import type { PreparedStore } from '@/core/engine/context/prepared-store'
import { readyLists } from '@/core/engine/prepare'
import { Slices } from '../doors/slices'
import { readyCatalogue } from './catalogue-order'

/** Finds out, in slices, what every page looks up: else the first who asks would wait for it, and everybody with them. */
export async function makeReady(prepared: PreparedStore): Promise<void> {
  const slices = new Slices()
  await slices.run(readyLists(prepared))
  await slices.run(readyCatalogue(prepared.store))
}
