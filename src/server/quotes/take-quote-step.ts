import 'server-only'

import type { Decimal } from '@/core/decimal/decimal'
import type { OrderDocument } from '@/core/order/order'
import { localDay } from '@/core/predicates/schedule-outlook'
import type { QuoteRequest } from '@/core/quote/quote'
import type { QuoteEvent, QuoteStep, QuoteStepKind } from '@/core/quote/quote-event'
import {
  checkQuoteStep,
  type QuoteProblem,
  type QuoteSide,
  type QuoteStanding,
  standingOfQuote,
} from '@/core/quote/quote-standing'
import { getSettings } from '@/core/store/store'
import { and, eq } from 'drizzle-orm'
import type { Transaction } from '../changes/commit-outcome'
import { requireRoom } from '../database/disk-room'
import { nextNumber } from '../database/number-series'
import { quoteEvents, quotes } from '../database/selling-schema'
import type { Steppe } from '../engine/steppe'
import { merchantAddress, queueMail, wakeMails } from '../mails/queue-mail'
import { type PlacedOrder, placeOrder } from '../orders/place-order'
import type { OrderOwner } from '../orders/order-rows'
import { findQuote } from './quote-rows'
import type { WorkingOffer } from './quote-shape'

export type QuoteOutcome =
  | { readonly ok: true; readonly standing: QuoteStanding }
  | { readonly ok: false; readonly code: 'unknown-quote' }
  /** Somebody took a step since the quote was looked at. */
  | { readonly ok: false; readonly code: 'stale' }
  | { readonly ok: false; readonly code: 'refused'; readonly problem: QuoteProblem }

/** By whom a step is taken, and when. `owner` keeps a buyer to their own quotes. */
export interface QuoteActor {
  readonly side: QuoteSide
  readonly author: string
  readonly at: Date
  readonly owner: OrderOwner | 'any'
}

/**
 * Keeps a request under the next number. `claim` takes what it is made from in the same transaction.
 *
 * Errors  `null` where that is gone. Throws `DiskFullError`.
 */
export async function askQuote(
  steppe: Steppe,
  request: QuoteRequest,
  { owner, at }: { readonly owner: OrderOwner; readonly at: Date },
  {
    working = null,
    claim,
  }: {
    readonly working?: WorkingOffer | null
    readonly claim?: (transaction: Transaction, number: number) => Promise<boolean>
  } = {},
): Promise<number | null> {
  requireRoom(steppe)
  const kept = steppe.database.transaction(async (transaction) => {
    const next = await nextNumber(transaction, 'quote')
    await transaction.insert(quotes).values({
      ...{ number: next, account: owner.account, visitor: owner.visitor, at, request, working },
      ...{ state: 'asked', version: 0, currency: request.currency, total: null, until: null },
      buyer: request.buyer.toLowerCase(),
    })
    if (claim && !(await claim(transaction, next))) throw new NotClaimed()
    const letter = { kind: 'quote-asked', quote: next } as const
    const { account } = owner
    await queueMail(transaction, { to: request.email, account, at }, { ...letter, to: 'buyer' })
    await queueMail(
      transaction,
      { to: merchantAddress(steppe), account: null, at },
      { ...letter, to: 'merchant' },
    )
    return next
  })
  const number = await kept.catch((error: unknown) => {
    if (error instanceof NotClaimed) return null
    throw error
  })
  if (number === null) return null
  steppe.sync()
  wakeMails(steppe)
  return number
}

/** Calls the whole transaction off, its number included. */
class NotClaimed extends Error {}

/** Takes a step with a quote. `seen` is how many had been taken when it was looked at. Errors  throws `DiskFullError`. */
export async function takeQuoteStep(
  steppe: Steppe,
  number: number,
  seen: number,
  step: QuoteStep,
  actor: QuoteActor,
): Promise<QuoteOutcome> {
  requireRoom(steppe)
  const outcome = await steppe.database.transaction((transaction) =>
    keepStep(steppe, transaction, { number, seen }, step, actor),
  )
  if (outcome.ok) {
    steppe.sync()
    wakeMails(steppe)
  }
  return outcome
}

export type AcceptedQuote =
  | { readonly ok: true; readonly order: number }
  | Extract<QuoteOutcome, { readonly ok: false }>
  | Extract<PlacedOrder, { readonly ok: false }>

/**
 * Accepts lines of an offer, which become an order, in one transaction: of two who accept at once one orders. It was promised, and
 * is taken though less is left.
 */
export async function acceptQuote(
  steppe: Steppe,
  { number, seen }: { readonly number: number; readonly seen: number },
  { document, lines }: { readonly document: OrderDocument; readonly lines: readonly number[] },
  actor: QuoteActor & { readonly owner: OrderOwner },
): Promise<AcceptedQuote> {
  let refused: Extract<QuoteOutcome, { readonly ok: false }> | null = null
  const placed = await placeOrder(steppe, {
    owner: { account: actor.owner.account, visitor: actor.owner.visitor ?? '' },
    document,
    at: actor.at,
    isPromised: true,
    claim: async (transaction, order) => {
      const step: QuoteStep = { kind: 'accept', lines, order }
      const outcome = await keepStep(steppe, transaction, { number, seen }, step, actor)
      if (!outcome.ok) refused = outcome
      return outcome.ok
    },
  })
  if (refused) return refused
  return placed.ok ? { ok: true, order: placed.number } : placed
}

/** Who gets a mail of each step. */
const TOLD: Readonly<Partial<Record<QuoteStepKind, readonly ('buyer' | 'merchant')[]>>> = {
  offer: ['buyer'],
  approve: ['buyer'],
  refuse: ['buyer'],
  'ask-approval': ['merchant'],
  answer: ['merchant'],
  decline: ['merchant'],
  accept: ['merchant'],
  expire: ['buyer', 'merchant'],
}

async function keepStep(
  steppe: Steppe,
  transaction: Transaction,
  { number, seen }: { readonly number: number; readonly seen: number },
  step: QuoteStep,
  { side, author, at, owner }: QuoteActor,
): Promise<QuoteOutcome> {
  const { prepared } = steppe
  // Two who act at once act one after the other.
  await transaction
    .select({ version: quotes.version })
    .from(quotes)
    .where(eq(quotes.number, number))
    .for('update')
  const quote = await findQuote(transaction, number, owner)
  if (!quote || !prepared) return { ok: false, code: 'unknown-quote' }
  if (quote.events.length !== seen) return { ok: false, code: 'stale' }
  const { timeZone, quoteMargin } = getSettings(prepared.store)
  const problem = checkQuoteStep(standingOfQuote(quote.events), step, {
    side,
    today: localDay(at.getTime(), timeZone),
    least: quoteMargin,
  })
  if (problem) return { ok: false, code: 'refused', problem }
  const event: QuoteEvent = { step, at: at.getTime(), author }
  const standing = standingOfQuote([...quote.events, event])
  await transaction.insert(quoteEvents).values({ quote: number, version: seen + 1, event })
  await transaction
    .update(quotes)
    .set({
      ...{ state: standing.state, version: seen + 1 },
      ...{ total: totalOf(standing), until: standing.offer?.until ?? null },
      // What was being written is sent.
      ...(step.kind === 'offer' || step.kind === 'ask-approval' ? { working: null } : {}),
    })
    .where(eq(quotes.number, number))
  for (const side of TOLD[step.kind] ?? []) {
    const to = side === 'buyer' ? quote.request.email : merchantAddress(steppe)
    const account = side === 'buyer' ? quote.account : null
    const letter = { kind: 'quote-step', quote: number, step: step.kind, event: seen, to: side } as const
    await queueMail(transaction, { to, account, at }, letter)
  }
  return { ok: true, standing }
}

function totalOf({ offer }: QuoteStanding): Decimal | null {
  return offer?.document.total.gross ?? null
}

/** Keeps what is being written for later. Resolves to `false` where somebody else kept another since. Errors  throws `DiskFullError`. */
export async function keepWorking(
  steppe: Steppe,
  number: number,
  { seen, working }: { readonly seen: number; readonly working: WorkingOffer },
): Promise<boolean> {
  requireRoom(steppe)
  const kept = await steppe.database
    .update(quotes)
    .set({ working, workingVersion: seen + 1 })
    .where(and(eq(quotes.number, number), eq(quotes.workingVersion, seen)))
    .returning({ number: quotes.number })
  if (kept.length > 0) steppe.sync()
  return kept.length > 0
}
