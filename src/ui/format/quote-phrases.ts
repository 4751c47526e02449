import type { QuoteProblem } from '@/core/quote/quote-standing'
import type { LostReason, QuoteState } from '@/core/quote/quote-event'
import { formatLocalDay } from './instant'

/** What a quote is called. */
export function quoteName(number: number): string {
  return `Q-${number}`
}

/** How a quote stands, to the merchant. */
export const QUOTE_STATE_WORDS: Readonly<Record<QuoteState, string>> = {
  asked: 'Asked',
  approval: 'Waits for approval',
  offered: 'Offered',
  answered: 'Answered',
  refused: 'Refused',
  declined: 'Declined',
  expired: 'Expired',
  accepted: 'Accepted',
}

/** How a quote stands, to the buyer; what the merchant settles among themselves is not told. */
export const BUYER_STATE_WORDS: Readonly<Record<QuoteState, string>> = {
  asked: 'Waiting for our answer',
  approval: 'Waiting for our answer',
  offered: 'Our offer is open',
  answered: 'Waiting for our answer',
  refused: 'We could not offer',
  declined: 'Declined',
  expired: 'Expired',
  accepted: 'Accepted',
}

export const LOST_WORDS: Readonly<Record<LostReason, string>> = {
  price: 'Too dear',
  delivery: 'Too late, or delivered otherwise',
  elsewhere: 'Bought elsewhere',
  'not-needed': 'Not needed any more',
  other: 'Another reason',
}

/** Why a step with a quote cannot be taken. */
export function quoteProblemSentence(problem: QuoteProblem): string {
  switch (problem.code) {
    case 'not-now':
      return `That cannot be done with a quote that is ${QUOTE_STATE_WORDS[problem.state].toLowerCase()}.`
    case 'not-theirs':
      return 'That is for the other side to do.'
    case 'nothing-offered':
      return 'Nothing is offered yet: add a line.'
    case 'until-past':
      return `The offer would have ended on ${formatLocalDay(problem.until)} already. Choose a later day.`
    case 'expired':
      return `The offer ended on ${formatLocalDay(problem.until)}. Write to us, and we look at it again.`
    case 'not-above-zero':
      return `Line ${problem.line + 1} needs a quantity and a price above zero.`
    case 'needs-approval':
      return `${problem.lines.length === 1 ? `Line ${(problem.lines[0] ?? 0) + 1} leaves` : `Lines ${problem.lines.map((at) => at + 1).join(', ')} leave`} less than ${problem.least} % margin, which somebody has to approve.`
    case 'no-such-line':
      return 'The offer has no such line.'
    case 'either-or':
      return 'Of a line and what is offered instead of it only one can be taken.'
    case 'empty':
      return 'Write a few words first.'
  }
}
