import 'server-only'

import { currentInstant } from '../clock'
import type { Steppe } from '../engine/steppe'
import { queueMail } from '../mails/queue-mail'

/** Has the link mailed that lets somebody set their password: they lost theirs, or were invited. */
export async function queuePasswordMail(
  { database }: Pick<Steppe, 'database'>,
  { name, email }: { readonly name: string; readonly email: string },
  word: string,
  why: 'lost' | 'invited',
): Promise<void> {
  await database.transaction((transaction) =>
    queueMail(
      transaction,
      { to: email, account: null, at: currentInstant() },
      { kind: 'set-password', name, word, why },
    ),
  )
}
