import 'server-only'

import { readHead } from '../engine/read-state'
import { getSteppe } from '../engine/steppe'

/** So long (milliseconds) the database may take to answer. */
const PATIENCE = 2_000

/** Whether the store is open, and its database answers. */
export async function isReady(): Promise<boolean> {
  const { database } = await getSteppe()
  let timer: NodeJS.Timeout | undefined
  const patience = new Promise<boolean>((resolve) => {
    timer = setTimeout(() => resolve(false), PATIENCE)
  })
  const answers = readHead(database).then(
    () => true,
    () => false,
  )
  const ready = await Promise.race([answers, patience])
  clearTimeout(timer)
  return ready
}
