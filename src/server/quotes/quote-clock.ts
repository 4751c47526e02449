import 'server-only'

import { localDay } from '@/core/predicates/schedule-outlook'
import { getSettings } from '@/core/store/store'
import { and, eq, gte, lt, lte, sql } from 'drizzle-orm'
import { mails, quotes } from '../database/selling-schema'
import type { Steppe } from '../engine/steppe'
import type { Letter } from '../mails/letter'
import { queueMail, wakeMails } from '../mails/queue-mail'
import { findQuote } from './quote-rows'
import { takeQuoteStep } from './take-quote-step'

const DAY = 86_400_000
/** So many days before its last one a buyer is reminded of an offer. */
const REMINDED_BEFORE = 2

/** Ends offers whose last day has passed, and reminds of those that end soon. Resolves to how many ended. */
export async function watchOffers(steppe: Steppe, now: Date): Promise<number> {
  if (!steppe.prepared) return 0
  const { timeZone } = getSettings(steppe.prepared.store)
  const today = localDay(now.getTime(), timeZone)
  const due = await steppe.database
    .select({ number: quotes.number, version: quotes.version })
    .from(quotes)
    .where(and(eq(quotes.state, 'offered'), lt(quotes.until, today)))
  let ended = 0
  for (const { number, version } of due) {
    const by = { side: 'clock', author: 'Steppe', at: now, owner: 'any' } as const
    const outcome = await takeQuoteStep(steppe, number, version, { kind: 'expire' }, by)
    if (outcome.ok) ended += 1
  }
  await remind(steppe, now, today, localDay(now.getTime() + REMINDED_BEFORE * DAY, timeZone))
  return ended
}

async function remind(steppe: Steppe, now: Date, today: string, soon: string): Promise<void> {
  const { database } = steppe
  const ending = await database
    .select({ number: quotes.number, until: quotes.until })
    .from(quotes)
    .where(and(eq(quotes.state, 'offered'), gte(quotes.until, today), lte(quotes.until, soon)))
  for (const { number, until } of ending) {
    const quote = await findQuote(database, number)
    if (!quote || until === null) continue
    const letter: Letter = { kind: 'quote-ending', quote: number, until }
    await database.transaction(async (transaction) => {
      // Once for each last day: an offer that is put off is told of again.
      const [known] = await transaction
        .select({ id: mails.id })
        .from(mails)
        .where(
          and(eq(mails.about, `quote ${number}`), sql`${mails.letter} = ${JSON.stringify(letter)}::jsonb`),
        )
      if (known) return
      await queueMail(transaction, { to: quote.request.email, account: quote.account, at: now }, letter)
    })
  }
  if (ending.length > 0) wakeMails(steppe)
}
