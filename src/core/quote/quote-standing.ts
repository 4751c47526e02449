import { compare, type Decimal, isPositive, multiply } from '../decimal/decimal'
import { marginPercent } from '../price/margin'
import type { Offer, OfferLine } from './quote'
import type { QuoteEvent, QuoteState, QuoteStep, QuoteStepKind } from './quote-event'

/** How a quote stands after all that was done with it. */
export interface QuoteStanding {
  readonly state: QuoteState
  /** The offer that stands, or stood last; `null` before there is one. */
  readonly offer: Offer | null
  /** The one that waits to be approved, with what is to be said with it. */
  readonly waiting: { readonly offer: Offer; readonly message: string } | null
  /** Every offer that was sent, the first first, with when. */
  readonly offers: readonly { readonly offer: Offer; readonly at: number; readonly author: string }[]
  /** Number of the order it became. */
  readonly order: number | null
}

/** Who takes a step. */
export type QuoteSide = 'merchant' | 'buyer' | 'clock'

/** Why a step cannot be taken. `line` is a position in the offer. */
export type QuoteProblem =
  | { readonly code: 'not-now'; readonly state: QuoteState }
  | { readonly code: 'not-theirs' }
  | { readonly code: 'nothing-offered' }
  | { readonly code: 'until-past'; readonly until: string }
  | { readonly code: 'expired'; readonly until: string }
  | { readonly code: 'not-above-zero'; readonly line: number }
  | { readonly code: 'needs-approval'; readonly lines: readonly number[]; readonly least: Decimal }
  | { readonly code: 'no-such-line'; readonly line: number }
  /** Both a line and what is offered instead of it. */
  | { readonly code: 'either-or'; readonly line: number }
  | { readonly code: 'empty' }

export function standingOfQuote(events: readonly QuoteEvent[]): QuoteStanding {
  let state: QuoteState = 'asked'
  let before: QuoteState = 'asked'
  let waiting: QuoteStanding['waiting'] = null
  let order: number | null = null
  const offers: QuoteStanding['offers'][number][] = []
  for (const { step, at, author } of events) {
    switch (step.kind) {
      case 'offer':
        offers.push({ offer: step.offer, at, author })
        state = 'offered'
        break
      case 'ask-approval':
        before = state
        waiting = { offer: step.offer, message: step.message }
        state = 'approval'
        break
      case 'approve':
        if (waiting) offers.push({ offer: waiting.offer, at, author })
        waiting = null
        state = 'offered'
        break
      case 'send-back':
        waiting = null
        state = before
        break
      case 'refuse':
        state = 'refused'
        break
      case 'answer':
        state = state === 'asked' ? 'asked' : 'answered'
        break
      case 'decline':
        state = 'declined'
        break
      case 'accept':
        state = 'accepted'
        order = step.order
        break
      case 'expire':
        state = 'expired'
        break
      case 'note':
      case 'keep-prices':
        break
    }
  }
  return { state, offer: offers.at(-1)?.offer ?? null, waiting, offers, order }
}

const OPEN: readonly QuoteState[] = ['asked', 'offered', 'answered', 'refused', 'declined', 'expired']

/** In which states each step can be taken, and by whom. */
const RULES: Readonly<
  Record<QuoteStepKind, { readonly by: QuoteSide; readonly from: readonly QuoteState[] }>
> = {
  offer: { by: 'merchant', from: OPEN },
  'ask-approval': { by: 'merchant', from: OPEN },
  approve: { by: 'merchant', from: ['approval'] },
  'send-back': { by: 'merchant', from: ['approval'] },
  refuse: { by: 'merchant', from: ['asked', 'answered', 'offered'] },
  answer: { by: 'buyer', from: OPEN },
  decline: { by: 'buyer', from: ['offered'] },
  accept: { by: 'buyer', from: ['offered'] },
  expire: { by: 'clock', from: ['offered'] },
  note: { by: 'merchant', from: [...OPEN, 'approval', 'accepted'] },
  'keep-prices': { by: 'merchant', from: ['offered', 'accepted', 'expired'] },
}

/** What one side can do with a quote now. */
export function quoteSteps(state: QuoteState, side: QuoteSide): ReadonlySet<QuoteStepKind> {
  const kinds = Object.keys(RULES) as QuoteStepKind[]
  return new Set(kinds.filter((kind) => RULES[kind].by === side && RULES[kind].from.includes(state)))
}

/**
 * Whether a step can be taken, by whom it is taken and on which local day (`YYYY-MM-DD`).
 *
 * Errors  the first problem; `null` when there is none.
 */
export function checkQuoteStep(
  standing: QuoteStanding,
  step: QuoteStep,
  {
    side,
    today,
    least,
  }: { readonly side: QuoteSide; readonly today: string; readonly least: Decimal | null },
): QuoteProblem | null {
  const { by, from } = RULES[step.kind]
  if (by !== side) return { code: 'not-theirs' }
  if (!from.includes(standing.state)) return { code: 'not-now', state: standing.state }
  switch (step.kind) {
    case 'offer':
      return checkOffer(step.offer, today) ?? needsApproval(step.offer, least)
    case 'ask-approval':
      return checkOffer(step.offer, today)
    case 'approve':
      return standing.waiting ? checkOffer(standing.waiting.offer, today) : { code: 'nothing-offered' }
    case 'accept': {
      if (!standing.offer) return { code: 'nothing-offered' }
      if (standing.offer.until < today) return { code: 'expired', until: standing.offer.until }
      return checkChosen(standing.offer, step.lines)
    }
    case 'answer':
    case 'refuse':
      return step.message.trim() === '' ? { code: 'empty' } : null
    case 'send-back':
      return step.reason.trim() === '' ? { code: 'empty' } : null
    case 'note':
      return step.text.trim() === '' ? { code: 'empty' } : null
    case 'decline':
    case 'expire':
    case 'keep-prices':
      return null
  }
}

function checkOffer({ lines, until }: Offer, today: string): QuoteProblem | null {
  if (lines.length === 0) return { code: 'nothing-offered' }
  if (until < today) return { code: 'until-past', until }
  const wrong = lines.findIndex(({ quantity, price }) => !isPositive(quantity) || !isPositive(price))
  return wrong < 0 ? null : { code: 'not-above-zero', line: wrong }
}

function needsApproval({ lines }: Offer, least: Decimal | null): QuoteProblem | null {
  const below = least === null ? [] : linesBelow(lines, least)
  return below.length === 0 || least === null ? null : { code: 'needs-approval', lines: below, least }
}

/** Positions of lines that leave less margin than so many percent; of what has no known cost nothing is said. */
export function linesBelow(
  lines: readonly Pick<OfferLine, 'net' | 'cost' | 'quantity'>[],
  least: Decimal,
): readonly number[] {
  return lines.flatMap(({ net, cost, quantity }, at) => {
    const margin = cost === null ? null : marginPercent(net, multiply(cost, quantity))
    return margin !== null && compare(margin, least) < 0 ? [at] : []
  })
}

/** Positions of the lines that are meant where nobody chose: all but those offered instead of another. */
export function defaultLines(lines: readonly Pick<OfferLine, 'insteadOf'>[]): readonly number[] {
  return lines.flatMap(({ insteadOf }, at) => (insteadOf === null ? [at] : []))
}

/** Whether lines of an offer can be ordered together. */
function checkChosen({ lines }: Offer, chosen: readonly number[]): QuoteProblem | null {
  if (chosen.length === 0) return { code: 'nothing-offered' }
  const taken = new Set<number>()
  for (const at of chosen) {
    const line = lines[at]
    if (!line || taken.has(at)) return { code: 'no-such-line', line: at }
    taken.add(at)
  }
  const both = chosen.find((at) => {
    const instead = lines[at]?.insteadOf
    return typeof instead === 'number' && chosen.includes(instead)
  })
  return both === undefined ? null : { code: 'either-or', line: both }
}
