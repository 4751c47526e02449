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

/** What is known here, beside what others have written. */
type Known =
  /** All of it was written before whoever asks asked. */
  | 'up-to-date'
  /** Others have written what is not known here yet. */
  | 'older'
  /** The database does not answer. */
  | 'without-database'

/**
 * Has whoever asks see at least what was written before they asked, by whichever process. A database that does not answer, or a
 * write that takes long, lets them see what is known.
 */
export async function untilUpToDate(steppe: Steppe): Promise<Known> {
  if (!steppe.isShared) return 'up-to-date'
  try {
    const { presence } = steppe
    const behind = await presence.orKnown(
      () => inPatience(isBehind(steppe), presence),
      () => null,
    )
    if (behind === null) return 'without-database'
    if (!behind) return 'up-to-date'
    const caughtUp = catchUpInTurn(steppe).then((): Known => 'up-to-date')
    return await atMost(caughtUp, () => 'older')
  } catch (error) {
    log.error({ err: error }, 'what other processes wrote is not known yet')
    return 'older'
  }
}

/** One that says nothing for so long is as good as gone. */
function inPatience(behind: Promise<boolean>, presence: Steppe['presence']): Promise<boolean | null> {
  return atMost<boolean | null>(behind, () => {
    presence.note()
    return null
  })
}

async function atMost<Result>(work: Promise<Result>, late: () => Result): Promise<Result> {
  // What goes wrong when nobody waits any more is told by whoever asks next.
  work.catch(() => undefined)
  let timer: NodeJS.Timeout | undefined
  const patience = new Promise<Result>((resolve) => {
    timer = setTimeout(() => resolve(late()), PATIENCE)
  })
  try {
    return await Promise.race([work, patience])
  } finally {
    clearTimeout(timer)
  }
}

/** Asked once for all that a page draws. */
const asked = cache(async (): Promise<{ readonly steppe: Steppe; readonly known: Known }> => {
  const steppe = await getSteppe()
  return { steppe, known: await untilUpToDate(steppe) }
})

/** The running store, with whatever was written before this request. */
export async function freshSteppe(): Promise<Steppe> {
  return (await asked()).steppe
}

/** How much of what others have written is known to this request. */
export async function howFresh(): Promise<Known> {
  return (await asked()).known
}

function catchUpInTurn(steppe: Steppe): Promise<void> {
  return inTurn(
    steppe,
    () => null,
    () => catchUp(steppe),
  )
}
