import 'server-only'

import { getSettings } from '@/core/store/store'
import { currentInstant } from '@/server/clock'
import { findDraft } from '@/server/drafts/draft-rows'
import { ownAddress } from '@/server/doors/own-address'
import type { Steppe } from '@/server/engine/steppe'
import type { Letter } from '@/server/mails/letter'
import type { WriteMail, WrittenMail } from '@/server/mails/send-mails'
import { findOrder, type Order } from '@/server/orders/order-rows'
import { findQuote, type Quote } from '@/server/quotes/quote-rows'
import { findRequest } from '@/server/shop/order-requests'
import { render } from 'react-email'
import { approvalWords } from './approval-words'
import { notPublishedWords } from './draft-words'
import { MailTemplate } from './mail-template'
import type { MailWords } from './mail-words'
import { orderStepWords, placedWords } from './order-words'
import { setPasswordWords, shopLinkWords } from './door-words'
import { askedWords, endingWords, quoteStepWords } from './quote-words'

type Attachment = WrittenMail['attachments'][number]

/** What makes the documents that go with mails. */
export interface Papers {
  readonly ofOrder: (
    order: Order,
    prepared: NonNullable<Steppe['prepared']>,
    wanted: { readonly paper: string; readonly number: string },
  ) => Promise<Attachment | null>
  readonly ofQuote: (
    quote: Quote,
    prepared: NonNullable<Steppe['prepared']>,
    now: number,
  ) => Promise<Attachment | null>
}

/** Writes mails with documents made so. */
export function writeMailWith(papers: Papers): WriteMail {
  return async (steppe, letter) => {
    const { prepared } = steppe
    const found = prepared && (await wordsOf(steppe, letter))
    if (!prepared || !found) return null
    const { name, shopContact } = getSettings(prepared.store)
    const template = (
      <MailTemplate words={found.words} storeName={name} contact={shopContact} address={ownAddress()} />
    )
    return {
      subject: found.words.subject,
      html: await render(template),
      plain: await render(template, { plainText: true }),
      attachments: await attachmentsOf(steppe, papers, letter, found.of),
    }
  }
}

type Found = { readonly words: MailWords; readonly of: { readonly order?: Order; readonly quote?: Quote } }

async function wordsOf({ database, prepared }: Steppe, letter: Letter): Promise<Found | null> {
  if (letter.kind === 'set-password') return { words: setPasswordWords(letter), of: {} }
  if (letter.kind === 'shop-link')
    return prepared && { words: shopLinkWords(letter, getSettings(prepared.store).name), of: {} }
  if (letter.kind === 'not-published') {
    const draft = await findDraft(database, letter.draft)
    const { timeZone } = prepared ? getSettings(prepared.store) : { timeZone: 'UTC' }
    return draft ? { words: notPublishedWords(draft, letter, timeZone), of: {} } : null
  }
  if ('order' in letter) {
    const order = await findOrder(database, letter.order)
    const words =
      order &&
      (letter.kind === 'order-placed'
        ? placedWords(order, letter.to)
        : orderStepWords(order, order.events, letter.event))
    return words ? { words, of: { order } } : null
  }
  if (letter.kind === 'approval') {
    const request = await findRequest({ database }, letter.request)
    return request ? { words: approvalWords(request, letter.said), of: {} } : null
  }
  const quote = await findQuote(database, letter.quote)
  if (!quote) return null
  const words =
    letter.kind === 'quote-asked'
      ? askedWords(quote, letter.to)
      : letter.kind === 'quote-ending'
        ? endingWords(quote, letter.until)
        : quoteStepWords(quote, letter.event, letter.to)
  return words && { words, of: { quote } }
}

async function attachmentsOf(
  { prepared }: Steppe,
  papers: Papers,
  letter: Letter,
  { order, quote }: Found['of'],
): Promise<readonly Attachment[]> {
  if (!prepared) return []
  if (order && letter.kind === 'order-step') {
    const document = order.events[letter.event]?.document ?? null
    const paper = letter.step === 'invoice' ? 'invoice' : letter.step === 'return' ? 'credit-note' : null
    const made =
      paper && document !== null
        ? await papers.ofOrder(order, prepared, { paper, number: String(document) })
        : null
    return made ? [made] : []
  }
  if (quote && letter.kind === 'quote-step' && (letter.step === 'offer' || letter.step === 'approve')) {
    const made = await papers.ofQuote(quote, prepared, currentInstant().getTime())
    return made ? [made] : []
  }
  return []
}
