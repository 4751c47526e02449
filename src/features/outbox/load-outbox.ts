import 'server-only'

import { getSettings } from '@/core/store/store'
import type { RequestContext } from '@/server/engine/request-context'
import { countWaiting, findMail, listMails } from '@/server/mails/mail-rows'
import { formatMoment } from '@/ui/format/instant'
import { quoteName } from '@/ui/format/quote-phrases'

const ON_A_PAGE = 60

export interface OutboxShown {
  /** A part of an address, a subject, or what it is about. */
  readonly words: string
  /** Mails before this one; `null` from the latest on. */
  readonly before: number | null
}

interface MailRow {
  readonly id: number
  readonly when: string
  readonly to: string
  readonly subject: string
  /** What it is about, with where that is. */
  readonly about: string
  readonly aboutHref: string | null
}

export interface OutboxView {
  readonly shown: OutboxShown
  readonly rows: readonly MailRow[]
  readonly waiting: number
  readonly older: number | null
  /** The one that is read; `null` for none. */
  readonly read: (MailRow & { readonly html: string; readonly plain: string }) | null
}

/** What an address says; what it says wrongly is as usual. */
export function parseOutbox(fields: Readonly<Record<string, string | undefined>>): OutboxShown {
  const before = Number(fields['before'])
  return {
    words: (fields['words'] ?? '').trim().slice(0, 100),
    before: Number.isSafeInteger(before) && before > 0 ? before : null,
  }
}

/** What a mail can be about that has a page of its own. */
const NAMES: Readonly<Record<string, (of: string) => string>> = {
  quote: (of) => `Quote ${quoteName(Number(of))}`,
  order: (of) => `Order ${of}`,
  draft: (of) => `Draft ${of}`,
}

/** The mails that went out, newest first, and the one that is read. */
export async function loadOutbox(
  { steppe, prepared }: Pick<RequestContext, 'steppe' | 'prepared'>,
  shown: OutboxShown,
  id: number | null,
): Promise<OutboxView> {
  const { database } = steppe
  const { timeZone } = getSettings(prepared.store)
  const found = await listMails(database, wordsMeant(shown.words), shown.before, ON_A_PAGE + 1)
  const page = found.slice(0, ON_A_PAGE)
  const toRow = ({ id: number, at, to, subject, about }: (typeof found)[number]): MailRow => {
    const [kind = '', of = ''] = about.split(' ')
    const name = NAMES[kind]
    return {
      ...{ id: number, to, subject, when: formatMoment(at.getTime(), timeZone) },
      about: name ? name(of) : 'Order to approve',
      aboutHref: name ? `/${kind}s/${of}` : null,
    }
  }
  const mail = id === null ? null : await findMail(database, id)
  return {
    shown,
    rows: page.map(toRow),
    waiting: await countWaiting(database),
    older: found.length > ON_A_PAGE ? (page.at(-1)?.id ?? null) : null,
    read: mail && { ...toRow(mail), html: mail.html, plain: mail.plain },
  }
}

/** A number as people write it is what mails are about. */
function wordsMeant(words: string): string {
  const quote = /^q-(\d{1,9})$/i.exec(words)
  return quote ? `quote ${quote[1]}` : /^\d{4,9}$/.test(words) ? `order ${words}` : words
}
