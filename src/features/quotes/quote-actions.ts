'use server'

import { FLAG, NUMBER, TEXT, THING } from '@/server/session/argument-shapes'
import { merchantAction } from '@/server/session/permit'
import type { Offer } from '@/core/quote/quote'
import type { QuoteStep } from '@/core/quote/quote-event'
import { standingOfQuote } from '@/core/quote/quote-standing'
import { currentInstant } from '@/server/clock'
import { DiskFullError } from '@/server/database/disk-room'
import { getSteppe, type Steppe } from '@/server/engine/steppe'
import { priceWorking } from '@/server/quotes/price-working'
import { findQuote, type Quote } from '@/server/quotes/quote-rows'
import { parseWorking, type WorkingOffer } from '@/server/quotes/quote-shape'
import { keepWorking, type QuoteOutcome, takeQuoteStep } from '@/server/quotes/take-quote-step'
import { currentAuthor } from '@/server/session/author'
import { quoteProblemSentence } from '@/ui/format/quote-phrases'
import { refusalSentence } from '@/ui/format/refusal-sentence'
import { refresh } from 'next/cache'
import type { AgreedWith } from '@/sheet/price-lines/party'
import { type KeptPrices, keepPricesOf } from './offer/keep-prices'

/** What came of it: `needsApproval` where somebody else has to agree first. */
export type QuoteActed =
  { readonly ok: true } | { readonly ok: false; readonly problem: string; readonly needsApproval?: boolean }

const LONGEST = 4_000
const RELOAD = 'This cannot be done. Reload the page, and try again.'
const STALE =
  'Somebody did something with this quote a moment ago. Reload to see it; what you typed is still here.'

interface Seen {
  readonly number: number
  readonly version: number
}

/** Sends the offer as it is written, or asks for approval of it. */
export const sendOffer = merchantAction(
  'quotes:work',
  [THING, THING, FLAG],
  async ({ number, version }: Seen, submitted: WorkingOffer, asksApproval: boolean): Promise<QuoteActed> => {
    const steppe = await getSteppe()
    const made = await makeOffer(steppe, number, submitted)
    if (typeof made === 'string') return { ok: false, problem: made }
    const kind = asksApproval ? 'ask-approval' : 'offer'
    return act(steppe, number, version, { kind, offer: made.offer, message: made.message })
  },
)

/** Keeps an offer as it is written, for later. */
export const keepForLater = merchantAction(
  'quotes:work',
  [NUMBER, NUMBER, THING],
  async (number: number, seen: number, submitted: WorkingOffer): Promise<QuoteActed> => {
    const working = parseWorking(submitted)
    if (!working || !Number.isSafeInteger(number) || !Number.isSafeInteger(seen))
      return { ok: false, problem: RELOAD }
    return withDisk(async () => {
      const isKept = await keepWorking(await getSteppe(), number, { seen, working })
      if (isKept) refresh()
      return isKept ? { ok: true } : { ok: false, problem: STALE }
    })
  },
)

/** Any other step of the merchant's: refusing, approving, sending back, a note. */
export const takeMerchantStep = merchantAction(
  'quotes:work',
  [THING, TEXT, TEXT],
  async (
    { number, version }: Seen,
    kind: 'refuse' | 'approve' | 'send-back' | 'note',
    text: string,
  ): Promise<QuoteActed> => {
    const words = String(text).trim().slice(0, LONGEST)
    const steps: Readonly<Record<typeof kind, QuoteStep>> = {
      refuse: { kind: 'refuse', message: words },
      approve: { kind: 'approve' },
      'send-back': { kind: 'send-back', reason: words },
      note: { kind: 'note', text: words },
    }
    const step = Object.hasOwn(steps, kind) ? steps[kind] : null
    if (!step) return { ok: false, problem: RELOAD }
    return act(await getSteppe(), number, version, step)
  },
)

/** Makes the offered prices the buyer's own, or those of a contract of theirs, in a draft. */
export const keepPrices = merchantAction(
  'drafts:edit',
  [THING, THING],
  async ({ number, version }: Seen, party: AgreedWith): Promise<KeptPrices> => {
    const steppe = await getSteppe()
    const quote = Number.isSafeInteger(number) ? await findQuote(steppe.database, number) : null
    if (!quote) return { ok: false, problem: RELOAD }
    if (quote.events.length !== version) return { ok: false, problem: STALE }
    const by = { author: await currentAuthor(), at: currentInstant() }
    const kept = await keepPricesOf(steppe, quote, { kind: party.kind, id: party.id }, by)
    if (!kept.ok) return kept
    const step: QuoteStep = { kind: 'keep-prices', draft: kept.draft, list: kept.list }
    await takeQuoteStep(steppe, number, version, step, { ...by, side: 'merchant', owner: 'any' })
    refresh()
    return kept
  },
)

async function act(steppe: Steppe, number: number, seen: number, step: QuoteStep): Promise<QuoteActed> {
  if (!Number.isSafeInteger(number) || !Number.isSafeInteger(seen)) return { ok: false, problem: RELOAD }
  const actor = {
    side: 'merchant',
    owner: 'any',
    at: currentInstant(),
    author: await currentAuthor(),
  } as const
  return withDisk(async () => {
    const outcome = await takeQuoteStep(steppe, number, seen, step, actor)
    if (!outcome.ok) return refusedBy(outcome)
    refresh()
    return { ok: true }
  })
}

function refusedBy(outcome: Extract<QuoteOutcome, { readonly ok: false }>): QuoteActed {
  if (outcome.code === 'unknown-quote') return { ok: false, problem: 'There is no such quote.' }
  if (outcome.code === 'stale') return { ok: false, problem: STALE }
  return {
    ok: false,
    problem: quoteProblemSentence(outcome.problem),
    needsApproval: outcome.problem.code === 'needs-approval',
  }
}

async function withDisk(write: () => Promise<QuoteActed>): Promise<QuoteActed> {
  try {
    return await write()
  } catch (error) {
    if (error instanceof DiskFullError) return { ok: false, problem: refusalSentence({ code: 'disk-full' }) }
    throw error
  }
}

/** An offer as it is written, at the figures of this moment; else what is wrong with it. */
async function makeOffer(
  steppe: Steppe,
  number: number,
  submitted: WorkingOffer,
): Promise<{ readonly offer: Offer; readonly message: string } | string> {
  const working = parseWorking(submitted)
  const quote = Number.isSafeInteger(number) ? await findQuote(steppe.database, number) : null
  if (!working || !quote || !steppe.prepared) return RELOAD
  if (standingOfQuote(quote.events).state === 'accepted') return 'This quote has been ordered already.'
  if (!isDate(working.until)) return 'Choose the last day the offer can be accepted on.'
  const at = currentInstant().getTime()
  const priced = priceWorking(steppe.prepared, quote, working, { at, changeSet: steppe.lastChangeSet })
  if (!priced) return 'The buyer’s account, or the currency, is gone.'
  const wrong = priced.lines.findIndex(({ ok }) => !ok)
  if (wrong >= 0) return `Line ${wrong + 1} needs a look first: see below it.`
  const lines = priced.lines.flatMap((each) => (each.ok ? [each.line] : []))
  if (!priced.document) return 'Nothing is offered yet: add a line.'
  if (badPosition(quote, working)) return RELOAD
  return {
    offer: {
      lines,
      ...{ until: working.until, terms: working.terms.trim(), delivery: working.delivery.trim() },
      document: priced.document,
    },
    message: working.message.trim(),
  }
}

function isDate(text: string): boolean {
  return /^\d{4}-\d{2}-\d{2}$/.test(text) && !Number.isNaN(Date.parse(text))
}

/** Whether a line speaks of one that is not there, or of one that is itself offered instead of another. */
function badPosition({ request }: Quote, { lines }: WorkingOffer): boolean {
  return lines.some(({ asked, insteadOf }, at) => {
    const isUnasked = asked !== null && request.lines[asked] === undefined
    const other = insteadOf === null ? undefined : lines[insteadOf]
    return isUnasked || (insteadOf !== null && (insteadOf === at || !other || other.insteadOf !== null))
  })
}
