import 'server-only'

import { getSettings } from '@/core/store/store'
import type { Transaction } from '../changes/commit-outcome'
import { mails } from '../database/selling-schema'
import type { Steppe } from '../engine/steppe'
import { aboutOf, type Letter } from './letter'
import { log } from '../operations/log'

export const MAILS = 'mails'

interface Addressee {
  readonly to: string
  /** Id; `null` for a guest, and for the merchant. */
  readonly account: string | null
  readonly at: Date
}

/**
 * Writes down that a mail is to be sent, in the transaction of what it tells of: it goes out though the server stops in between, and
 * not where nothing happened. Nothing where there is no address.
 */
export async function queueMail(
  transaction: Transaction,
  { to, account, at }: Addressee,
  letter: Letter,
): Promise<void> {
  if (to.trim() === '') return
  await transaction.insert(mails).values({ to, account, at, letter, about: aboutOf(letter) })
}

/** The merchant's own address; empty where they gave none. */
export function merchantAddress({ prepared }: Pick<Steppe, 'prepared'>): string {
  return prepared ? getSettings(prepared.store).shopEmail : ''
}

/** Has what is queued sent soon. */
export function wakeMails({ jobs }: Pick<Steppe, 'jobs'>): void {
  jobs
    ?.ask(MAILS, { inSeconds: 0 })
    .catch((error: unknown) => log.error({ err: error }, 'mails could not be sent at once'))
}
