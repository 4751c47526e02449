import 'server-only'

import type { Steppe } from '../engine/steppe'
import { requestAddress } from '../session/request-address'
import { countTry, forgetTries, minutesToWait } from '../staff/door-tries'

/** Passcodes of the shop, and codes of promotions: guessed from one address, whatever window they are typed in. */
export type WordKind = 'passcode' | 'promotion'

/**
 * Lets somebody try a word, if not too many wrong ones came from where they are.
 *
 * Errors  resolves to `null` where they have to wait.
 */
export async function tryWord<Found>(
  { database }: Pick<Steppe, 'database'>,
  kind: WordKind,
  find: () => Found,
): Promise<{ readonly found: Found } | null> {
  const tried = [{ kind: 'address', key: `${kind} ${await requestAddress()}` }] as const
  if ((await minutesToWait(database, tried)) > 0) return null
  await countTry(database, tried)
  const found = find()
  if (found) await forgetTries(database, tried)
  return { found }
}
