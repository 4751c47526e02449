import 'server-only'

import { cache } from 'react'
import { getSteppe, type Steppe } from '../engine/steppe'
import { catchUp, isBehind } from './catch-up'
import { inTurn } from './turns'
import { log } from '../operations/log'

/** What other processes write is known here soon after, without anybody asking. */
export async function followOthers(steppe: Steppe): Promise<void> {
  await steppe.listen(() => {
    catchUpInTurn(steppe).catch((error: unknown) =>
      log.error({ err: error }, 'what other processes wrote is not known yet'),
    )
  })
}

/** So long (milliseconds) whoever asks waits for what others have written. */
const PATIENCE = 2_000

/**
 * Has whoever asks see at least what was written before they asked, by whichever process. A database that does not answer, or a
 * write that takes long, lets them see what is known.
 */
export async function untilUpToDate(steppe: Steppe): Promise<void> {
  if (!steppe.isShared) return
  let timer: NodeJS.Timeout | undefined
  const patience = new Promise<void>((resolve) => {
    timer = setTimeout(resolve, PATIENCE)
  })
  const caughtUp = isBehind(steppe)
    .then(async (behind) => (behind ? catchUpInTurn(steppe) : undefined))
    .catch((error: unknown) => log.error({ err: error }, 'what other processes wrote is not known yet'))
  await Promise.race([caughtUp, patience])
  clearTimeout(timer)
}

/** The running store, with whatever was written before this request; asked once for all that a page draws. */
export const freshSteppe = cache(async (): Promise<Steppe> => {
  const steppe = await getSteppe()
  await untilUpToDate(steppe)
  return steppe
})

function catchUpInTurn(steppe: Steppe): Promise<void> {
  return inTurn(
    steppe,
    () => null,
    () => catchUp(steppe),
  )
}
