'use server'

import { NUMBER, NUMBERS, TEXT, TEXTS, THING } from '@/server/session/argument-shapes'
import { buyerAction, shopAction } from '@/server/session/permit'
import { MOST_FILES } from '@/core/quote/quote'
import { LOST_REASONS, type LostReason, type QuoteStep } from '@/core/quote/quote-event'
import { standingOfQuote } from '@/core/quote/quote-standing'
import { currentInstant } from '@/server/clock'
import { getSteppe } from '@/server/engine/steppe'
import { askForCard } from '@/server/payments/card-stand-in'
import { orderOfOffer } from '@/server/quotes/price-working'
import { attachQuoteFiles } from '@/server/quotes/quote-files'
import { findQuote, type Quote } from '@/server/quotes/quote-rows'
import { acceptQuote, askQuote, type QuoteOutcome, takeQuoteStep } from '@/server/quotes/take-quote-step'
import { ownerOf, shopView, type ShopVisitor } from '@/server/session/shop-session'
import { quoteProblemSentence } from '@/ui/format/quote-phrases'
import { redirect } from 'next/navigation'
import { isAboveLimit } from '../checkout/approval'
import { CARD_SENTENCES, findCardFault } from '../checkout/card-sentences'
import { enterShopPage } from '../entrance/enter'
import { NO_ROOM, withRoomOr } from '../frame/with-room'
import type { QuickRow } from '../quick/quick-rows'
import { sumsOf } from './load-quotes'
import { readAsk } from './read-ask'
import type { QuoteSums } from './shop-quote-view'

/** What is wrong with what was sent, by field; nothing typed is lost. */
export interface QuoteAnswer {
  readonly problems: Readonly<Record<string, string>>
}

const LONGEST_MESSAGE = 4_000
const THROUGH_DRAFT = 'The shop is looked at through a draft: nothing can be asked or ordered in it.'
const MOVED_ON = 'Something has happened with this quote since you looked at it. Look at it again below.'

/** Asks for a quote on typed rows, with files that were sent before, by their ids; what comes next is the quote. */
export const askForQuote = buyerAction(
  [THING, THING, TEXTS],
  async (
    submitted: readonly QuickRow[],
    typed: Readonly<Record<string, string>>,
    files: readonly string[],
  ): Promise<QuoteAnswer> => {
    const visitor = await enterShopPage()
    if ((await shopView()).draft !== null) return { problems: { all: THROUGH_DRAFT } }
    const read = await readAsk(visitor, submitted, typed)
    if (!read.ok) return { problems: read.problems }
    if (!isIds(files)) return { problems: { all: `At most ${MOST_FILES} files can go with a request.` } }
    const steppe = await getSteppe()
    const { request, owner } = read
    const number = await withRoomOr(
      () =>
        askQuote(
          steppe,
          request,
          { owner, at: currentInstant() },
          { claim: (transaction, next) => attachQuoteFiles(transaction, next, owner, files) },
        ),
      () => 'no-room' as const,
    )
    if (number === 'no-room') return { problems: { all: NO_ROOM } }
    if (number === null)
      return {
        problems: { all: 'A file you attached has waited too long. Leave it out, and attach it again.' },
      }
    redirect(`/shop/quotes/${number}?asked=1`)
  },
)

/** What taking only some lines of an offer comes to. Errors  `null` where it cannot be told. */
export const sumsOfChosen = shopAction(
  [NUMBER, NUMBERS],
  async (number: number, chosen: readonly number[]): Promise<QuoteSums | null> => {
    const found = await ownQuote(number)
    const offer = found ? standingOfQuote(found.quote.events).offer : null
    if (!found || !offer || !isPositions(chosen, offer.lines.length)) return null
    const { visitor, quote, changeSet } = found
    const priced = sumsOf(visitor, quote, offer, chosen, changeSet)
    return priced.ok ? priced.sums : null
  },
)

/** Writes back to the merchant. */
export const answerOffer = buyerAction(
  [NUMBER, NUMBER, TEXT],
  async (number: number, seen: number, message: string): Promise<QuoteAnswer> => {
    return step(number, seen, { kind: 'answer', message: message.trim().slice(0, LONGEST_MESSAGE) })
  },
)

export const declineOffer = buyerAction(
  [NUMBER, NUMBER, THING],
  async (
    number: number,
    seen: number,
    { reason, message }: { readonly reason: string; readonly message: string },
  ): Promise<QuoteAnswer> => {
    const known = LOST_REASONS.find((each) => each === reason)
    if (!known) return { problems: { reason: 'Choose a reason.' } }
    const words = message.trim().slice(0, LONGEST_MESSAGE)
    return step(number, seen, { kind: 'decline', reason: known satisfies LostReason, message: words })
  },
)

/** Accepts lines of an offer at the total that was looked at: they become an order. */
export const acceptOffer = buyerAction(
  [NUMBER, NUMBER, THING],
  async (
    number: number,
    seen: number,
    wanted: {
      readonly lines: readonly number[]
      readonly total: string
      readonly reference: string
      readonly card: string
    },
  ): Promise<QuoteAnswer> => {
    const found = await ownQuote(number)
    if (!found) return { problems: { all: 'This quote is not here any more.' } }
    const { visitor, quote, changeSet, author } = found
    if ((await shopView()).draft !== null) return { problems: { all: THROUGH_DRAFT } }
    const { offer } = standingOfQuote(quote.events)
    if (!offer || !isPositions(wanted.lines, offer.lines.length))
      return { problems: { all: 'Choose at least one line.' } }
    const steppe = await getSteppe()
    const priced = orderOfOffer(visitor.prepared, quote, offer, {
      ...{ chosen: wanted.lines, at: visitor.buyerContext.at, changeSet },
      reference: wanted.reference.trim().slice(0, 60),
    })
    if (!priced.ok)
      return { problems: { all: 'Something in this offer cannot be ordered any more. Please write to us.' } }
    const { goods, currency } = priced.document
    if (isAboveLimit(visitor, goods.net, currency))
      return {
        problems: {
          all: 'This is more than you order alone. Somebody of your account who approves can accept it.',
        },
      }
    if (priced.document.total.gross !== wanted.total)
      return { problems: { all: 'The taxes have changed since you looked. Check the total, then accept.' } }
    if (offer.terms === '') {
      const fault = findCardFault(wanted.card)
      if (fault !== null) return { problems: { card: fault } }
      const paid = askForCard(wanted.card)
      if (!paid.ok) return { problems: { card: CARD_SENTENCES[paid.code] } }
    }
    const actor = { side: 'buyer', author, at: currentInstant(), owner: ownerOf(visitor) } as const
    const accepted = await withRoomOr(
      () => acceptQuote(steppe, { number, seen }, { document: priced.document, lines: wanted.lines }, actor),
      () => null,
    )
    if (accepted === null) return { problems: { all: NO_ROOM } }
    if (accepted.ok) redirect(`/shop/orders/${accepted.order}?placed=1`)
    return {
      problems: {
        all:
          'code' in accepted && accepted.code === 'refused'
            ? quoteProblemSentence(accepted.problem)
            : MOVED_ON,
      },
    }
  },
)

async function step(number: number, seen: number, wanted: QuoteStep): Promise<QuoteAnswer> {
  const found = await ownQuote(number)
  if (!found) return { problems: { all: 'This quote is not here any more.' } }
  if ((await shopView()).draft !== null) return { problems: { all: THROUGH_DRAFT } }
  const { visitor, author } = found
  const steppe = await getSteppe()
  const actor = { side: 'buyer', author, at: currentInstant(), owner: ownerOf(visitor) } as const
  const outcome = await withRoomOr(
    () => takeQuoteStep(steppe, number, seen, wanted, actor),
    () => null,
  )
  if (outcome === null) return { problems: { all: NO_ROOM } }
  return outcome.ok ? { problems: {} } : { problems: { all: sentenceOf(outcome) } }
}

function sentenceOf(outcome: Extract<QuoteOutcome, { readonly ok: false }>): string {
  return outcome.code === 'refused' ? quoteProblemSentence(outcome.problem) : MOVED_ON
}

async function ownQuote(number: number): Promise<{
  readonly visitor: ShopVisitor
  readonly quote: Quote
  readonly changeSet: number
  readonly author: string
} | null> {
  const visitor = await enterShopPage()
  const { database, lastChangeSet } = await getSteppe()
  const quote = typeof number === 'number' ? await findQuote(database, number, ownerOf(visitor)) : null
  if (!quote) return null
  return { visitor, quote, changeSet: lastChangeSet, author: visitor.person?.name ?? quote.request.buyer }
}

function isIds(files: readonly string[]): boolean {
  return Array.isArray(files) && files.length <= MOST_FILES && files.every((id) => typeof id === 'string')
}

function isPositions(lines: readonly number[], count: number): boolean {
  return (
    Array.isArray(lines) &&
    lines.length > 0 &&
    lines.length <= count &&
    lines.every((at) => Number.isInteger(at) && at >= 0 && at < count)
  )
}
