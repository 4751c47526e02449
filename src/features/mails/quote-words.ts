import type { Decimal } from '@/core/decimal/decimal'
import type { QuoteRequest } from '@/core/quote/quote'
import type { QuoteEvent } from '@/core/quote/quote-event'
import { standingOfQuote } from '@/core/quote/quote-standing'
import { formatAmount, formatMoney } from '@/ui/format/amount'
import { formatLocalDay } from '@/ui/format/instant'
import { LOST_WORDS, quoteName } from '@/ui/format/quote-phrases'
import { type MailWords, NO_LINES } from './mail-words'
import { contentOf } from './order-words'

interface MailedQuote {
  readonly number: number
  readonly request: QuoteRequest
  readonly events: readonly QuoteEvent[]
}

/** That a quote was asked for: to whom who asked, or to the merchant. */
export function askedWords({ number, request }: MailedQuote, to: 'buyer' | 'merchant'): MailWords {
  const name = quoteName(number)
  const content = {
    ...NO_LINES,
    quoted: request.message,
    lines: request.lines.map((line) => ({
      ...{ name: line.name, quantity: line.quantity, price: '' },
      total: line.wish === null ? '' : `${formatAmount(line.wish, request.priceDigits)} wished`,
    })),
  }
  const needed = request.neededBy === '' ? [] : [`Needed by ${formatLocalDay(request.neededBy)}.`]
  if (to === 'merchant')
    return {
      subject: `${request.buyer} asks for quote ${name}`,
      preview: request.message || `${request.lines.length} items`,
      title: `${request.buyer} asks for a quote`,
      paragraphs: [`${request.asker} asks for ${request.lines.length} items.`, ...needed],
      ...{ ...content, action: { label: 'Answer', path: `/quotes/${number}` } },
    }
  return {
    subject: `We have your request ${name}`,
    preview: 'We look at it and answer soon.',
    title: 'We have your request',
    paragraphs: [`It is quote ${name}. We look at it, and you hear from us soon.`, ...needed],
    ...{ ...content, action: { label: 'See your request', path: `/shop/quotes/${number}` } },
  }
}

/** What one step makes known; `null` for a step nobody is told of. */
export function quoteStepWords(
  { number, request, events }: MailedQuote,
  at: number,
  to: 'buyer' | 'merchant',
): MailWords | null {
  const event = events[at]
  if (!event) return null
  const { step } = event
  const name = quoteName(number)
  const { buyer } = request
  const own = { label: 'See the quote', path: `/shop/quotes/${number}` }
  const ours = { label: 'Open the quote', path: `/quotes/${number}` }
  switch (step.kind) {
    case 'offer':
    case 'approve': {
      const { offer } = standingOfQuote(events.slice(0, at + 1))
      const asked =
        step.kind === 'approve'
          ? events.slice(0, at).findLast((each) => each.step.kind === 'ask-approval')
          : event
      const message =
        asked && (asked.step.kind === 'offer' || asked.step.kind === 'ask-approval') ? asked.step.message : ''
      if (!offer) return null
      const total = formatMoney(offer.document.total.gross, request.currency, request.digits)
      return {
        subject: `Our offer for quote ${name}`,
        preview: `${total}, open until ${formatLocalDay(offer.until)}.`,
        title: 'Our offer to you',
        paragraphs: [
          `These prices are yours until ${formatLocalDay(offer.until)}. Accept them and they become an order as they stand; or answer, if something should be otherwise.`,
          ...(offer.delivery === '' ? [] : [`Delivered ${offer.delivery}.`]),
        ],
        ...{ ...contentOf(offer.document), quoted: message },
        action: { label: 'Accept, answer or decline', path: own.path },
      }
    }
    case 'refuse':
      return {
        subject: `Quote ${name}: we cannot offer this`,
        preview: step.message,
        title: 'We cannot make you an offer',
        paragraphs: [`This is what we can say to quote ${name}. Write back if something else would do.`],
        ...{ ...NO_LINES, quoted: step.message, action: own },
      }
    case 'expire':
      return to === 'buyer'
        ? {
            subject: `Our offer ${name} has ended`,
            preview: 'Write to us if you still need it.',
            title: 'Our offer has ended',
            paragraphs: [
              `The offer for quote ${name} was open until yesterday. Write to us if you still need it.`,
            ],
            ...{ ...NO_LINES, action: own },
          }
        : {
            subject: `${buyer} let quote ${name} end`,
            preview: 'Nobody accepted in time.',
            title: `Quote ${name} has ended`,
            paragraphs: [`${buyer} neither accepted nor declined it.`],
            ...{ ...NO_LINES, action: ours },
          }
    case 'ask-approval':
      return {
        subject: `Quote ${name} for ${buyer} waits for approval`,
        preview: `${event.author} asks.`,
        title: 'An offer waits for approval',
        paragraphs: [
          `${event.author} wants to send this offer to ${buyer}. It leaves less margin than the store allows.`,
        ],
        ...{ ...contentOf(step.offer.document), quoted: step.message, action: ours },
      }
    case 'answer':
      return {
        subject: `${buyer} answers quote ${name}`,
        preview: step.message,
        title: `${buyer} has answered`,
        paragraphs: [`${event.author} writes:`],
        ...{ ...NO_LINES, quoted: step.message, action: ours },
      }
    case 'decline':
      return {
        subject: `${buyer} declines quote ${name}`,
        preview: LOST_WORDS[step.reason],
        title: `${buyer} has declined`,
        paragraphs: [`Their reason: ${LOST_WORDS[step.reason].toLowerCase()}.`],
        ...{ ...NO_LINES, quoted: step.message, action: ours },
      }
    case 'accept':
      return {
        subject: `${buyer} accepts quote ${name}`,
        preview: `It is order ${step.order}.`,
        title: `${buyer} has accepted`,
        paragraphs: [
          `${step.lines.length} ${step.lines.length === 1 ? 'line is' : 'lines are'} ordered as order ${step.order}.`,
        ],
        ...{ ...NO_LINES, action: { label: 'Open the order', path: `/orders/${step.order}` } },
      }
    case 'send-back':
    case 'note':
    case 'keep-prices':
      return null
  }
}

/** That an offer ends soon. */
export function endingWords({ number, request, events }: MailedQuote, until: string): MailWords | null {
  const { offer, state } = standingOfQuote(events)
  if (!offer || state !== 'offered' || offer.until !== until) return null
  const total: Decimal = offer.document.total.gross
  return {
    subject: `Our offer ${quoteName(number)} ends on ${formatLocalDay(until)}`,
    preview: `${formatMoney(total, request.currency, request.digits)} at these prices.`,
    title: `Our offer ends on ${formatLocalDay(until)}`,
    paragraphs: [
      `Until then you can order at its prices: ${formatMoney(total, request.currency, request.digits)} in all.`,
    ],
    ...{ ...NO_LINES, action: { label: 'See the offer', path: `/shop/quotes/${number}` } },
  }
}
