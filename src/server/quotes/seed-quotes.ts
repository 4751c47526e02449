import 'server-only'

import { paymentTermsOf } from '@/core/cart/payment-terms'
import { findByCode, findBySku } from '@/core/catalogue/find-by-code'
import { itemName } from '@/core/catalogue/product'
import { findMinorDigits } from '@/core/currency/iso-4217'
import { decimal } from '@/core/decimal/decimal'
import { buyerContext } from '@/core/engine/context/buyer-context'
import type { PreparedStore } from '@/core/engine/context/prepared-store'
import { openPricingContextExactly } from '@/core/engine/price/open-pricing-context'
import { displayOf } from '@/core/engine/rules/find-tax'
import { localDay } from '@/core/predicates/schedule-outlook'
import type { AskedLine, QuoteRequest } from '@/core/quote/quote'
import type { QuoteStep } from '@/core/quote/quote-event'
import { defaultLines, standingOfQuote } from '@/core/quote/quote-standing'
import { getSettings } from '@/core/store/store'
import { DEMO_AUTHOR } from '@/demo/demo-history'
import type { DemoQuote, DemoQuoteStep } from '@/demo/quotes'
import { preparedAsOf } from '../changes/history'
import type { Steppe } from '../engine/steppe'
import { orderOfOffer, priceWorking } from './price-working'
import { findQuote, type Quote } from './quote-rows'
import type { WorkingOffer } from './quote-shape'
import { acceptQuote, askQuote, takeQuoteStep } from './take-quote-step'

const DAY = 86_400_000

/** Asks for a quote as a buyer of the demo did, and does what was done with it on the days after. */
export async function seedQuote(steppe: Steppe, demo: DemoQuote): Promise<void> {
  const at = new Date(demo.at)
  const prepared = await preparedAsOf(steppe, at)
  const request = requestOf(prepared, demo, at)
  const account = findByCode(prepared.store.account, demo.account)?.id ?? null
  const owner = { account, visitor: null }
  const number = await askQuote(steppe, request, { owner, at })
  if (number === null) return
  for (const [day, step] of demo.steps.entries()) {
    const when = new Date(at.getTime() + (day + 1) * DAY)
    const quote = await findQuote(steppe.database, number)
    if (quote) await seedStep(steppe, quote, step, when)
  }
}

async function seedStep(steppe: Steppe, quote: Quote, step: DemoQuoteStep, at: Date): Promise<void> {
  const prepared = await preparedAsOf(steppe, at)
  const { number, events, request, account } = quote
  const owner = { account, visitor: null }
  const merchant = { side: 'merchant', author: DEMO_AUTHOR, at, owner: 'any' } as const
  const buyer = { side: 'buyer', author: request.asker, at, owner } as const
  if (step.kind === 'accept') {
    const { offer } = standingOfQuote(events)
    const lines = offer ? defaultLines(offer.lines) : []
    const moment = { chosen: lines, reference: '', at: at.getTime(), changeSet: steppe.lastChangeSet }
    const made = offer && orderOfOffer(prepared, quote, offer, moment)
    if (!made?.ok) throw new RangeError(`the demo's quote ${number} cannot be ordered`)
    const accepted = await acceptQuote(
      steppe,
      { number, seen: events.length },
      { document: made.document, lines },
      buyer,
    )
    if (!accepted.ok) throw new RangeError(`the demo's quote ${number}: ${accepted.code}`)
    return
  }
  const taken = await takeQuoteStep(
    steppe,
    number,
    events.length,
    step.kind === 'offer' ? offerOf(prepared, quote, step, at) : step,
    step.kind === 'answer' || step.kind === 'decline' ? buyer : merchant,
  )
  if (!taken.ok) throw new RangeError(`the demo's quote ${number}: ${JSON.stringify(taken)}`)
}

function offerOf(
  prepared: PreparedStore,
  quote: Quote,
  step: Extract<DemoQuoteStep, { readonly kind: 'offer' }>,
  at: Date,
): QuoteStep {
  const { request } = quote
  const { timeZone } = getSettings(prepared.store)
  const working: WorkingOffer = {
    lines: request.lines.map(({ sku, quantity }, asked) => ({
      ...{ sku, extras: [], asked, insteadOf: null, price: step.prices[asked] ?? '' },
      quantity: step.quantities?.[asked] ?? quantity,
      note: step.notes?.[asked] ?? '',
    })),
    until: localDay(at.getTime() + step.days * DAY, timeZone),
    terms: request.terms,
    delivery: step.delivery ?? '',
    message: step.message,
  }
  const priced = priceWorking(prepared, quote, working, { at: at.getTime(), changeSet: 0 })
  const wrong = priced?.lines.find(({ ok }) => !ok)
  if (!priced?.document || wrong)
    throw new RangeError(`the demo's offer of ${quote.number} is wrong: ${JSON.stringify(wrong)}`)
  return {
    kind: 'offer',
    message: step.message,
    offer: {
      lines: priced.lines.flatMap((each) => (each.ok ? [each.line] : [])),
      ...{ until: working.until, terms: working.terms, delivery: working.delivery },
      document: priced.document,
    },
  }
}

function requestOf(prepared: PreparedStore, demo: DemoQuote, at: Date): QuoteRequest {
  const { store } = prepared
  const account = findByCode(store.account, demo.account)
  if (!account) throw new RangeError(`the demo's quotes speak of ${demo.account}, who is no account`)
  const opened = openPricingContextExactly(
    prepared,
    buyerContext({ kind: 'account', account: account.id }, at.getTime()),
  )
  if (!opened.ok) throw new RangeError(`the demo's quote of ${demo.account}: ${opened.error.code}`)
  const { currency, digits } = opened.value
  const { name, country, state, postcode, city, addresses, emails, people } = account
  const person = people.find(({ email }) => email === demo.person)
  return {
    version: 1,
    ...{ currency, priceDigits: digits, digits: findMinorDigits(currency) ?? 2, channel: null },
    basis: displayOf(prepared, opened.value, 'cart') === 'gross' ? 'gross' : 'net',
    ...{ buyer: name, asker: person?.name ?? name, askedBy: null, email: person?.email ?? emails[0] ?? '' },
    address: { name, street: addresses[0]?.street ?? '', country, state, postcode, city },
    lines: demo.lines.map(([sku, quantity, wish]): AskedLine => {
      const variant = findBySku(store.variant, sku)
      const product = store.product.get(variant?.product ?? '')
      if (!variant || !product) throw new RangeError(`the demo's quotes speak of ${sku}, which is not there`)
      return {
        ...{ variant: variant.id, sku: variant.sku, name: itemName(product, variant), extras: [] },
        ...{ quantity: decimal(quantity), their: null, wish: wish === undefined ? null : decimal(wish) },
      }
    }),
    neededBy: demo.neededBy ?? '',
    message: demo.message,
    terms: paymentTermsOf(opened.value),
  }
}
