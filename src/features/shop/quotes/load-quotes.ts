import 'server-only'

import { decimal, type Decimal, multiply, sum } from '@/core/decimal/decimal'
import { localDay } from '@/core/predicates/schedule-outlook'
import type { Offer } from '@/core/quote/quote'
import type { QuoteEvent, QuoteStepKind } from '@/core/quote/quote-event'
import { defaultLines, quoteSteps, standingOfQuote } from '@/core/quote/quote-standing'
import { getSettings } from '@/core/store/store'
import { getSteppe } from '@/server/engine/steppe'
import { orderOfOffer } from '@/server/quotes/price-working'
import { filesOfQuote } from '@/server/quotes/quote-files'
import { findQuote, listQuotes, type Quote } from '@/server/quotes/quote-rows'
import { ownerOf, type ShopVisitor } from '@/server/session/shop-session'
import { formatAmount, formatMoney } from '@/ui/format/amount'
import { formatDay, formatLocalDay, formatMoment } from '@/ui/format/instant'
import { BUYER_STATE_WORDS, LOST_WORDS, quoteName } from '@/ui/format/quote-phrases'
import { taxWordsOf } from '../frame/shop-sentences'
import { productShown } from '../orders/load-orders'
import type { QuoteSums, ShopQuoteLine, ShopQuoteView } from './shop-quote-view'

const ON_A_PAGE = 20
const DAY = 86_400_000

interface ShopQuoteHead {
  readonly number: number
  readonly name: string
  readonly when: string
  readonly state: string
  readonly isOpen: boolean
  readonly lines: number
  readonly total: string
}

export interface ShopQuotes {
  readonly quotes: readonly ShopQuoteHead[]
  /** Number before which the next page begins; `null` where there are no more. */
  readonly older: number | null
}

/** What a visitor has asked a price for, the latest first. */
export async function loadQuotes(visitor: ShopVisitor, before: number | null): Promise<ShopQuotes> {
  const { database } = await getSteppe()
  const { timeZone } = getSettings(visitor.prepared.store)
  const found = await listQuotes(database, { owner: ownerOf(visitor) }, before, ON_A_PAGE + 1)
  const shown = found.slice(0, ON_A_PAGE)
  return {
    quotes: shown.map(({ number, at, state, lines, total, currency, digits }) => ({
      ...{ number, name: quoteName(number), when: formatDay(at, timeZone), lines },
      state: BUYER_STATE_WORDS[state],
      isOpen: state === 'offered',
      total: total === null ? '' : formatMoney(decimal(total), currency, digits),
    })),
    older: found.length > ON_A_PAGE ? (shown.at(-1)?.number ?? null) : null,
  }
}

/** One of a visitor's quotes. Errors  `null` where there is none of the number, or it is somebody else's: which of both is not told. */
export async function loadQuote(visitor: ShopVisitor, number: number): Promise<ShopQuoteView | null> {
  const steppe = await getSteppe()
  const quote = await findQuote(steppe.database, number, ownerOf(visitor))
  if (!quote) return null
  const { request, events } = quote
  const standing = standingOfQuote(events)
  const { offer, offers, state } = standing
  const { at } = visitor.buyerContext
  const { timeZone } = getSettings(visitor.prepared.store)
  const today = localDay(at, timeZone)
  const isOver = offer !== null && offer.until < today
  const chosen = offer ? defaultLines(offer.lines) : []
  const found = offer ? sumsOf(visitor, quote, offer, chosen, steppe.lastChangeSet) : null
  const isOpen = state === 'offered' && !isOver
  return {
    ...{ number, version: events.length, order: standing.order },
    title:
      offer && state !== 'asked' ? `Our offer to ${request.buyer}` : `Your request, ${quoteName(number)}`,
    about: aboutWords(quote, timeZone, offers.at(-1)?.at ?? null),
    currency: request.currency,
    digits: request.digits,
    priceDigits: request.priceDigits,
    basis: request.basis,
    words: taxWordsOf(visitor.prepared.store)[request.basis],
    lines: offer
      ? offerLines(visitor, quote, offer, offers.at(-2)?.offer ?? null)
      : askedLines(visitor, quote),
    sums: found?.ok ? found.sums : null,
    until:
      offer && (isOpen || isOver) && state === 'offered'
        ? untilWords(offer.until, isOver)
        : BUYER_STATE_WORDS[state],
    left: offer && isOpen ? leftWords(today, offer.until) : '',
    promise: offer ? promiseWords(offer) : '',
    byCard: offer?.terms === '',
    said: conversation(quote, timeZone),
    files: await filesOfQuote(steppe.database, number),
    steps: [...quoteSteps(state, 'buyer')].filter(
      (kind): kind is QuoteStepKind => kind !== 'accept' || isOpen,
    ),
    hindrance: isOpen && found && !found.ok ? found.because : '',
  }
}

/** What taking some lines of an offer comes to now. */
export function sumsOf(
  { prepared, buyerContext }: Pick<ShopVisitor, 'prepared' | 'buyerContext'>,
  quote: Quote,
  offer: Offer,
  chosen: readonly number[],
  changeSet: number,
): { readonly ok: true; readonly sums: QuoteSums } | { readonly ok: false; readonly because: string } {
  const priced = orderOfOffer(prepared, quote, offer, {
    ...{ chosen, reference: '', at: buyerContext.at, changeSet },
  })
  if (!priced.ok)
    return {
      ok: false,
      because:
        priced.code === 'place'
          ? 'The taxes there depend on a part of the address that is missing. Please write to us.'
          : 'Something in this offer is not sold any more. Please write to us.',
    }
  const { goods, delivery, taxes, total, currency, digits } = priced.document
  const { basis } = quote.request
  const theirs = chosen.map((at) => {
    const line = offer.lines[at]
    return line?.their ? multiply(line.their, line.quantity) : null
  })
  return {
    ok: true,
    sums: {
      goods,
      delivery,
      taxes: taxes.map(({ name, percent, on, amount }) => ({
        label: `${basis === 'gross' ? 'includes ' : ''}${name} ${percent} % on ${formatMoney(on, currency, digits)}`,
        amount,
      })),
      total: total.gross,
      atTheirs: theirs.includes(null) ? null : sum(theirs as Decimal[]),
    },
  }
}

function aboutWords({ number, request, at }: Quote, timeZone: string, answered: number | null): string {
  const asked = `Quote ${quoteName(number)}, asked by ${request.askedBy ?? request.asker} on ${formatDay(at, timeZone)}`
  return answered === null ? asked : `${asked}, answered on ${formatDay(new Date(answered), timeZone)}`
}

function untilWords(until: string, isOver: boolean): string {
  return isOver ? `Ended on ${formatLocalDay(until)}` : `Open until ${formatLocalDay(until)}`
}

function leftWords(today: string, until: string): string {
  const days = Math.round((Date.parse(until) - Date.parse(today)) / DAY)
  return days === 0
    ? 'The last day at these prices'
    : `${days} more ${days === 1 ? 'day' : 'days'} at these prices`
}

function promiseWords({ delivery, terms }: Offer): string {
  const paid = terms === '' ? 'paid by card' : terms
  return delivery === ''
    ? `Paid ${terms === '' ? 'by card' : `on account, ${terms}`}`
    : `Delivered ${delivery}, ${paid}`
}

function askedLines(visitor: ShopVisitor, { request }: Quote): readonly ShopQuoteLine[] {
  return request.lines.map((line, position) => ({
    ...{ position, sku: line.sku, name: line.name, quantity: line.quantity, their: line.their },
    ...itemShown(visitor, line.variant),
    extras: line.extras.map(({ name }) => name),
    ...{ price: null, total: null, before: null, insteadOf: null },
    notes: line.wish === null ? [] : [`you wished for ${formatAmount(line.wish, request.priceDigits)}`],
  }))
}

function offerLines(
  visitor: ShopVisitor,
  { request }: Quote,
  offer: Offer,
  earlier: Offer | null,
): readonly ShopQuoteLine[] {
  return offer.lines.map((line, position) => {
    const asked = line.asked === null ? undefined : request.lines[line.asked]
    const before = earlier?.lines.find((each) => each.variant === line.variant && each.asked === line.asked)
    const instead = line.insteadOf === null ? undefined : offer.lines[line.insteadOf]
    return {
      ...{ position, sku: line.sku, name: line.name, quantity: line.quantity, their: line.their },
      ...itemShown(visitor, line.variant),
      extras: line.extras.map(({ name }) => name),
      price: line.price,
      total: line[request.basis],
      insteadOf: line.insteadOf,
      before: before && before.price !== line.price ? before.price : null,
      notes: [
        instead ? `or this instead of ${instead.name}` : '',
        asked && asked.variant === line.variant && asked.quantity !== line.quantity
          ? `you asked for ${asked.quantity}`
          : '',
        line.note,
      ].filter(Boolean),
    }
  })
}

function itemShown(visitor: ShopVisitor, variant: string) {
  const { store } = visitor.prepared
  const product = store.product.get(store.variant.get(variant)?.product ?? '')
  return { picture: product?.picture ?? '', product: productShown(visitor, variant) }
}

/** What both sides wrote to each other, the latest first. */
function conversation({ request, at, events }: Quote, timeZone: string) {
  const first = { who: request.asker, when: formatMoment(at.getTime(), timeZone), text: request.message }
  const later = events.flatMap((event) => {
    const text = saidIn(event, events)
    return text === '' ? [] : [{ who: event.author, when: formatMoment(event.at, timeZone), text }]
  })
  return [...later.reverse(), ...(request.message === '' ? [] : [first])]
}

function saidIn(event: QuoteEvent, events: readonly QuoteEvent[]): string {
  const { step } = event
  switch (step.kind) {
    case 'offer':
    case 'refuse':
    case 'answer':
      return step.message
    case 'approve': {
      const asked = events
        .slice(0, events.indexOf(event))
        .findLast((each) => each.step.kind === 'ask-approval')
      return asked?.step.kind === 'ask-approval' ? asked.step.message : ''
    }
    case 'decline':
      return [LOST_WORDS[step.reason], step.message].filter(Boolean).join('. ')
    default:
      return ''
  }
}
