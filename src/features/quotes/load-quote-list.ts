import 'server-only'

import { decimal } from '@/core/decimal/decimal'
import { QUOTE_STATES, WAITS_FOR_MERCHANT } from '@/core/quote/quote-event'
import { getSettings } from '@/core/store/store'
import { wantedBuyers } from '@/server/engine/find-accounts'
import type { RequestContext } from '@/server/engine/request-context'
import { countQuotes, findQuote, listQuotes } from '@/server/quotes/quote-rows'
import { formatMoney } from '@/ui/format/amount'
import { formatDay, formatLocalDay } from '@/ui/format/instant'
import { QUOTE_STATE_WORDS, quoteName } from '@/ui/format/quote-phrases'
import { recordHref } from '@/ui/frame/record-href'
import { type QuoteListShown, statesShown } from './quote-filter'

const ON_A_PAGE = 50

interface QuoteRow {
  readonly number: number
  readonly name: string
  readonly when: string
  readonly buyer: string
  /** Sheet of the account; `null` for a guest, or one that is gone. */
  readonly buyerHref: string | null
  readonly state: string
  readonly isWaiting: boolean
  readonly lines: number
  readonly neededBy: string
  readonly total: string
  readonly until: string
}

export interface QuoteListView {
  readonly shown: QuoteListShown
  readonly rows: readonly QuoteRow[]
  /** How many wait for the merchant, and how many for the buyer. */
  readonly waiting: number
  readonly offered: number
  /** The number before which the next page begins; `null` where there are no more. */
  readonly older: number | null
  /** The number that was typed, where there is a quote of it. */
  readonly exact: number | null
}

/** A page of quotes, newest first. */
export async function loadQuoteList(
  { steppe, prepared }: Pick<RequestContext, 'steppe' | 'prepared'>,
  shown: QuoteListShown,
): Promise<QuoteListView> {
  const { store } = prepared
  const { timeZone } = getSettings(store)
  const { database } = steppe
  const words = shown.buyer.trim().toLowerCase()
  const states = statesShown(shown.show)
  const found = await listQuotes(
    database,
    {
      ...(states && { states }),
      ...wantedBuyers(store, words),
    },
    shown.before,
    ON_A_PAGE + 1,
  )
  const counts = await countQuotes(database)
  const typed = /^(?:q-)?\d{1,9}$/.test(words)
    ? await findQuote(database, Number(words.replace('q-', '')))
    : null
  const page = found.slice(0, ON_A_PAGE)
  return {
    shown,
    waiting: WAITS_FOR_MERCHANT.reduce((sum, state) => sum + (counts.get(state) ?? 0), 0),
    offered: counts.get('offered') ?? 0,
    older: found.length > ON_A_PAGE ? (page.at(-1)?.number ?? null) : null,
    exact: typed?.number ?? null,
    rows: page.map(
      ({ number, at, account, buyer, state, lines, neededBy, total, until, currency, digits }) => {
        const record = account === null ? undefined : store.account.get(account)
        return {
          ...{ number, lines, buyer, name: quoteName(number), when: formatDay(at, timeZone) },
          buyerHref: record ? recordHref('accounts', record.code) : null,
          state: QUOTE_STATE_WORDS[state],
          isWaiting: WAITS_FOR_MERCHANT.includes(state),
          neededBy: neededBy === '' ? '' : formatLocalDay(neededBy),
          total: total === null ? '' : formatMoney(decimal(total), currency, digits),
          until: until !== null && state === 'offered' ? formatLocalDay(until) : '',
        }
      },
    ),
  }
}

/** States to choose from, as options of a list. */
export const QUOTE_STATE_CHOICES = QUOTE_STATES.map((state) => [state, QUOTE_STATE_WORDS[state]] as const)
