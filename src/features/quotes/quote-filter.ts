import { QUOTE_STATES, type QuoteState, WAITS_FOR_MERCHANT } from '@/core/quote/quote-event'

/** What the list of quotes is narrowed to: what waits for the merchant, for the buyer, everything, or one state. */
export type QuotesShown = 'waiting' | 'open' | 'all' | QuoteState

export interface QuoteListShown {
  readonly show: QuotesShown
  /** The beginning of a buyer's name, or a number. */
  readonly buyer: string
  /** Quotes before this number; `null` from the latest on. */
  readonly before: number | null
}

const OPEN: readonly QuoteState[] = [...WAITS_FOR_MERCHANT, 'offered']

/** The states that are meant; `null` for all of them. */
export function statesShown(show: QuotesShown): readonly QuoteState[] | null {
  if (show === 'all') return null
  if (show === 'waiting') return WAITS_FOR_MERCHANT
  return show === 'open' ? OPEN : [show]
}

/** What an address says; what it says wrongly is as usual. */
export function parseQuoteFilter(fields: Readonly<Record<string, string | undefined>>): QuoteListShown {
  const show = fields['show'] ?? ''
  const before = Number(fields['before'])
  const isKnown = ['waiting', 'all', ...QUOTE_STATES].includes(show)
  return {
    show: isKnown ? (show as QuotesShown) : 'open',
    buyer: (fields['buyer'] ?? '').slice(0, 100),
    before: Number.isSafeInteger(before) && before > 0 ? before : null,
  }
}

/** The address of a list; what is usual is left out. */
export function quoteListHref({ show, buyer, before }: QuoteListShown): string {
  const fields = new URLSearchParams()
  if (show !== 'open') fields.set('show', show)
  if (buyer !== '') fields.set('buyer', buyer)
  if (before !== null) fields.set('before', String(before))
  return fields.size === 0 ? '/quotes' : `/quotes?${fields}`
}
