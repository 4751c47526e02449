import 'server-only'

import { stockAsked } from '@/core/cart/stock-asked'
import { findBySku } from '@/core/catalogue/find-by-code'
import { type Decimal, toFixed } from '@/core/decimal/decimal'
import { localDay } from '@/core/predicates/schedule-outlook'
import type { Offer } from '@/core/quote/quote'
import type { QuoteEvent } from '@/core/quote/quote-event'
import { quoteSteps, standingOfQuote } from '@/core/quote/quote-standing'
import { getSettings, type Store } from '@/core/store/store'
import type { RequestContext } from '@/server/engine/request-context'
import type { Steppe } from '@/server/engine/steppe'
import { filesOfQuote } from '@/server/quotes/quote-files'
import { findQuote, type Quote } from '@/server/quotes/quote-rows'
import type { WorkingOffer } from '@/server/quotes/quote-shape'
import { readStock } from '@/server/stock/stock-levels'
import { formatAmount, formatMoney } from '@/ui/format/amount'
import { formatLocalDay, formatMoment } from '@/ui/format/instant'
import { countryName } from '@/ui/format/place-names'
import { LOST_WORDS, QUOTE_STATE_WORDS, quoteName } from '@/ui/format/quote-phrases'
import { recordHref } from '@/ui/frame/record-href'
import { keepersOf } from './offer/keep-prices'
import { figuresOf } from './offer/offer-figures'
import type { OfferFigures, QuoteNote, QuoteView } from './offer/offer-view'

const DAY = 86_400_000
const NO_FIGURES: OfferFigures = {
  ...{ lines: [], atTheirs: null, goods: null, delivery: null, taxes: [] },
  ...{ total: null, earned: null, margin: null },
}

/** A quote with the offer that is being written and what it comes to. `null` for none of the number. */
export async function loadQuote(
  { steppe, prepared, now }: Pick<RequestContext, 'steppe' | 'prepared' | 'now'>,
  number: number,
): Promise<QuoteView | null> {
  const quote = await findQuote(steppe.database, number)
  if (!quote) return null
  const { request, events, account } = quote
  const { store } = prepared
  const { timeZone, quoteMargin, quoteDays } = getSettings(store)
  const record = account === null ? undefined : store.account.get(account)
  const standing = standingOfQuote(events)
  const today = localDay(now, timeZone)
  const until = localDay(now + quoteDays * DAY, timeZone)
  const working =
    quote.working ?? beginOffer(store, quote, standing.waiting?.offer ?? standing.offer, { today, until })
  const kept = events.findLast(({ step }) => step.kind === 'keep-prices')?.step
  const { street, postcode, city, country } = request.address
  return {
    ...{ number, name: quoteName(number), version: events.length, workingVersion: quote.workingVersion },
    ...{ state: standing.state, buyer: request.buyer, email: request.email, today },
    buyerHref: record ? recordHref('accounts', record.code) : null,
    as: record ? `account:${record.code}` : 'guest',
    about: aboutWords(quote, timeZone),
    deliverTo: [street, `${postcode} ${city}`.trim(), countryName(country)].filter(Boolean).join(', '),
    ...{
      currency: request.currency,
      digits: request.digits,
      priceDigits: request.priceDigits,
      basis: request.basis,
    },
    asked: request.lines.map(({ quantity, wish, variant }) => ({ quantity, wish, variant })),
    neededBy: request.neededBy === '' ? '' : formatLocalDay(request.neededBy),
    working,
    figures: (await loadFigures(steppe, prepared, quote, working, now)) ?? NO_FIGURES,
    notes: notesOf(quote, timeZone),
    files: await filesOfQuote(steppe.database, number),
    steps: [...quoteSteps(standing.state, 'merchant')],
    offers: standing.offers.map(({ offer, at, author }, place) => ({
      ...{ when: formatMoment(at, timeZone), who: author },
      total: formatMoney(offer.document.total.gross, request.currency, request.digits),
      changes: changesFrom(standing.offers[place - 1]?.offer ?? null, offer, request.priceDigits),
    })),
    least: quoteMargin,
    order: standing.order,
    keepers: keepersOf(store, account, now),
    keptIn: kept?.kind === 'keep-prices' ? { draft: kept.draft, list: kept.list } : null,
  }
}

/** What an offer comes to as it is written, with what is in stock. Errors  as of `figuresOf`. */
export async function loadFigures(
  steppe: Steppe,
  prepared: RequestContext['prepared'],
  quote: Quote,
  working: WorkingOffer,
  at: number,
): Promise<OfferFigures | null> {
  const { store } = prepared
  const wanted = working.lines.flatMap(({ sku }) => {
    const variant = findBySku(store.variant, sku.trim())
    return variant ? [{ variant: variant.id }] : []
  })
  const stock = await readStock(steppe.database, stockAsked(store, wanted))
  return figuresOf(prepared, quote, working, { at, changeSet: steppe.lastChangeSet, stock })
}

/** The offer before it is written: what was sent last, else what was asked for at their own prices. */
function beginOffer(
  store: Store,
  { request }: Quote,
  last: Offer | null,
  { today, until }: { readonly today: string; readonly until: string },
): WorkingOffer {
  const codes = (extras: readonly { readonly id: string }[]) =>
    extras.flatMap(({ id }) => store.extra.get(id)?.code ?? [])
  // A SKU may be another one by now; of what is gone the old one is shown, and refused.
  const skuOf = (variant: string, sku: string) => store.variant.get(variant)?.sku ?? sku
  if (last)
    return {
      lines: last.lines.map(({ variant, sku, extras, quantity, price, asked, insteadOf, note }) => ({
        ...{ sku: skuOf(variant, sku), extras: codes(extras), quantity, asked, insteadOf, note },
        price: toFixed(price, request.priceDigits),
      })),
      ...{ terms: last.terms, delivery: last.delivery, message: '' },
      until: last.until < today ? until : last.until,
    }
  return {
    lines: request.lines.map(({ variant, sku, extras, quantity }, asked) => ({
      ...{
        sku: skuOf(variant, sku),
        extras: codes(extras),
        quantity,
        price: '',
        asked,
        insteadOf: null,
        note: '',
      },
    })),
    ...{ until, terms: request.terms, delivery: '', message: '' },
  }
}

function aboutWords({ request, at }: Quote, timeZone: string): string {
  const who = request.asker === request.buyer || request.asker === '' ? '' : ` by ${request.asker}`
  const byStaff = request.askedBy === null ? '' : `, written down by ${request.askedBy}`
  return `asked on ${formatMoment(at.getTime(), timeZone)}${who}${byStaff}`
}

/** What one offer says otherwise than the one before. */
function changesFrom(before: Offer | null, after: Offer, digits: number): readonly string[] {
  if (!before) return []
  const keyOf = ({ variant, asked, insteadOf }: Offer['lines'][number]) => `${variant} ${asked} ${insteadOf}`
  const old = new Map(before.lines.map((line) => [keyOf(line), line]))
  const changed = after.lines.flatMap((line) => {
    const was = old.get(keyOf(line))
    if (!was) return [`${line.name} added`]
    old.delete(keyOf(line))
    const price = (amount: Decimal) => formatAmount(amount, digits)
    return [
      ...(was.price === line.price ? [] : [`${line.name} ${price(was.price)} → ${price(line.price)}`]),
      ...(was.quantity === line.quantity ? [] : [`${line.name} ${was.quantity} → ${line.quantity} pieces`]),
    ]
  })
  const left = [...old.values()].map(({ name }) => `${name} left out`)
  const terms = before.terms === after.terms ? [] : [`paid ${after.terms || 'by card'}`]
  const until = before.until === after.until ? [] : [`until ${formatLocalDay(after.until)}`]
  const delivery = before.delivery === after.delivery ? [] : [`delivered ${after.delivery || 'as usual'}`]
  return [...changed, ...left, ...terms, ...until, ...delivery]
}

function notesOf({ request, at, events }: Quote, timeZone: string): readonly QuoteNote[] {
  const first: QuoteNote = {
    who: request.asker || request.buyer,
    when: formatMoment(at.getTime(), timeZone),
    text: request.message === '' ? 'Asked for a quote' : request.message,
    isInternal: false,
  }
  return [first, ...events.map((event) => ({ ...noteOf(event), when: formatMoment(event.at, timeZone) }))]
}

function noteOf({ step, author }: QuoteEvent): Omit<QuoteNote, 'when'> {
  const said = (what: string, text = ''): Omit<QuoteNote, 'when'> => ({
    ...{ who: author, isInternal: false },
    text: [what, text].filter(Boolean).join(text === '' ? '' : ': '),
  })
  const kept = (what: string, text = '') => ({ ...said(what, text), isInternal: true })
  switch (step.kind) {
    case 'offer':
      return said('Offered', step.message)
    case 'ask-approval':
      return kept('Asked for approval', step.message)
    case 'approve':
      return said('Approved and sent')
    case 'send-back':
      return kept('Sent back', step.reason)
    case 'refuse':
      return said('Refused', step.message)
    case 'answer':
      return said('', step.message)
    case 'decline':
      return said(`Declined, ${LOST_WORDS[step.reason].toLowerCase()}`, step.message)
    case 'accept':
      return said(
        `Accepted ${step.lines.length} ${step.lines.length === 1 ? 'line' : 'lines'}: order ${step.order}`,
      )
    case 'expire':
      return said(QUOTE_STATE_WORDS.expired)
    case 'note':
      return kept('', step.text)
    case 'keep-prices':
      return kept(`Prices put into the draft “${step.draft}” as list ${step.list}`)
  }
}
