import 'server-only'

import { ofOwnBuyers } from '../session/own-buyers'
import { and, desc, eq, isNotNull, isNull, lt, or, sql } from 'drizzle-orm'
import type { Database } from '../database/database'
import { mails } from '../database/selling-schema'

/** A mail as a list tells of it. */
export interface MailHeadline {
  readonly id: number
  readonly at: Date
  readonly to: string
  readonly subject: string
  readonly about: string
}

type Reader = Pick<Database, 'select'>

const headline = {
  id: mails.id,
  at: mails.at,
  to: mails.to,
  subject: mails.subject,
  about: mails.about,
}

/** Mails that went out, before one of them (`null`: from the latest on), the newest first. `words` narrows to a part of an address, a subject, or what it is about. */
export async function listMails(
  database: Reader,
  words: string,
  before: number | null,
  most: number,
): Promise<readonly MailHeadline[]> {
  const holds = `%${words.replace(/[\\%_]/g, (sign) => `\\${sign}`)}%`
  return database
    .select(headline)
    .from(mails)
    .where(
      and(
        isNotNull(mails.sent),
        ofOwnBuyers(mails.account),
        before === null ? undefined : lt(mails.id, before),
        words === ''
          ? undefined
          : or(
              sql`${mails.to} ilike ${holds}`,
              sql`${mails.subject} ilike ${holds}`,
              sql`${mails.about} ilike ${holds}`,
            ),
      ),
    )
    .orderBy(desc(mails.id))
    .limit(most)
}

/** How many wait to be sent. */
export async function countWaiting(database: Reader): Promise<number> {
  const [row] = await database
    .select({ count: sql<number>`count(*)::int` })
    .from(mails)
    .where(isNull(mails.sent))
  return row?.count ?? 0
}

/** A mail as it went out. Errors  `null` for none of the number, and for one that waits. */
export async function findMail(
  database: Reader,
  id: number,
): Promise<(MailHeadline & { readonly html: string; readonly plain: string }) | null> {
  if (!Number.isSafeInteger(id)) return null
  const [row] = await database
    .select({ ...headline, html: mails.html, plain: mails.plain })
    .from(mails)
    .where(and(eq(mails.id, id), isNotNull(mails.sent), ofOwnBuyers(mails.account)))
  return row ? { ...row, html: row.html ?? '', plain: row.plain ?? '' } : null
}
