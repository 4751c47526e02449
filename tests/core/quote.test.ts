import { priceCart } from '@/core/cart/price-cart'
import { compare, decimal, multiply, sum } from '@/core/decimal/decimal'
import { toFraction } from '@/core/decimal/fraction'
import { roundToDigits } from '@/core/decimal/rounding'
import { buyerContext } from '@/core/engine/context/buyer-context'
import { prepare } from '@/core/engine/prepare'
import { type OfferDraftLine, priceOffer } from '@/core/quote/price-offer'
import type { Offer, OfferLine } from '@/core/quote/quote'
import type { QuoteEvent, QuoteStep } from '@/core/quote/quote-event'
import {
  checkQuoteStep,
  defaultLines,
  linesBelow,
  type QuoteSide,
  quoteSteps,
  standingOfQuote,
} from '@/core/quote/quote-standing'
import { prepared } from '@tests/fixtures/demo-request'
import { orderDocument } from '@tests/fixtures/order-document'
import { EVERY_VARIANT, randomQuestion, randomStore } from '@tests/fixtures/random-store'
import fc from 'fast-check'

const RUNS = Number(process.env['STEPPE_RUNS'] ?? 40)
const TODAY = '2026-11-25'
const AT = Date.parse('2026-11-25T10:00:00Z')
const GORSEBACK = buyerContext({ kind: 'account', account: 'account-gorseback' }, AT)
const HEAD = {
  ...{ buyer: 'B', email: '', payment: '30 days net', reference: '', placedBy: null, changeSet: 1 },
  address: { name: 'B', street: '', postcode: '', city: '', state: '', country: 'IE' },
}
const ABOUT = { basis: 'net', quote: 1042, head: HEAD } as const

const line = (
  sku: string,
  quantity: number,
  price = '',
  more: Partial<OfferDraftLine> = {},
): OfferDraftLine => ({
  ...{ variant: `variant-${sku}`, extras: [], quantity: decimal(quantity), price },
  ...{ asked: null, insteadOf: null, note: '', ...more },
})

function offered(...lines: readonly OfferDraftLine[]) {
  const priced = priceOffer(prepared, GORSEBACK, lines, ABOUT)
  if (!priced.ok) throw new Error(priced.error.code)
  return priced.value
}

describe('what an offer comes to', () => {
  // Gorseback pay 22.80 for brood frames: 12 % off 25.90, to the nearest 0.05. They cost 13.10.
  test.each([
    ['their own price where nothing is typed', '', '22.8'],
    ['an amount', '21.45', '21.45'],
    ['a percentage, ending as their price does', '-6%', '21.45'],
    ['so much less', '-1.30', '21.5'],
    // 13.10 ÷ 0.65 = 20.1538…, to the nearest 0.05.
    ['a margin on cost', 'm35', '20.15'],
  ])('%s', (_what, typed, price) => {
    const [first] = offered(line('FR-BR-PF', 48, typed)).lines
    expect(first).toMatchObject({ ok: true, line: { price, their: '22.8', cost: '13.1', quantity: '48' } })
  })

  test('the whole of it with tax, beside the same at their prices', () => {
    const { document, atTheirs } = offered(line('FR-BR-PF', 48, '21.45'), line('TL-JT-ST', 2))
    expect(atTheirs).toBe('1118.9')
    // 48 × 21.45 + 2 × 12.25 = 1,054.10; 23 % VAT line by line: 236.81 + 5.64 (5.635 half up).
    expect(document).toMatchObject({
      goods: { net: '1054.1' },
      total: { net: '1054.1', tax: '242.45', gross: '1296.55' },
    })
    expect(document?.lines[0]?.trace.map(({ kind }) => kind)).toEqual([
      'reference',
      'line',
      'rounding',
      'settled',
    ])
    expect(document?.lines[0]).toMatchObject({ list: null, contract: null, promotions: [] })
  })

  test('what is offered instead of something is priced, and counts only where it is taken', () => {
    const { lines, document } = offered(
      line('FR-BR-PF', 10, '20'),
      line('FR-BR-PA', 10, '30', { insteadOf: 0 }),
    )
    expect(lines[1]).toMatchObject({ ok: true, line: { price: '30', net: '300' } })
    expect(document?.goods.net).toBe('200')
    expect(defaultLines([{ insteadOf: null }, { insteadOf: 0 }])).toEqual([0])
  })

  test.each([
    ['12,5%', 'comma'],
    ['cheap', 'not-understood'],
    ['-100%', 'not-positive'],
    ['21.4567', 'too-many-digits'],
    ['m100', 'margin-too-high'],
  ])('%s is refused, and no sum is told', (typed, error) => {
    const { lines, document } = offered(line('FR-BR-PF', 1, typed), line('TL-JT-ST', 1))
    expect(lines[0]).toMatchObject({ ok: false, error })
    expect(lines[1]).toMatchObject({ ok: true })
    expect(document).toBeNull()
  })

  test('an item that is gone is told, whatever else is offered', () => {
    expect(offered(line('NOTHING', 1, '5')).lines).toEqual([
      { ok: false, error: 'gone', their: null, cost: null },
    ])
  })

  test('in random stores: each line is its price times its quantity, and nothing of a promotion is in it', () => {
    const wanted = fc.array(
      fc.record({ variant: fc.constantFrom(...EVERY_VARIANT), quantity: fc.integer({ min: 1, max: 60 }) }),
      { minLength: 1, maxLength: 4 },
    )
    fc.assert(
      fc.property(
        randomStore,
        randomQuestion,
        wanted,
        fc.constantFrom('net', 'gross'),
        (store, question, some, basis) => {
          const from = prepare(store)
          const lines = some.map(({ variant, quantity }): OfferDraftLine => ({
            ...{ variant, extras: [], quantity: decimal(quantity), price: '7.5' },
            ...{ asked: null, insteadOf: null, note: '' },
          }))
          const priced = priceOffer(from, question, lines, { ...ABOUT, basis: basis as 'net' | 'gross' })
          if (!priced.ok || !priced.value.document) return
          const { document } = priced.value
          for (const each of document.lines) {
            const exact = multiply(decimal('7.5'), each.quantity)
            expect(each[basis as 'net' | 'gross']).toBe(
              roundToDigits(toFraction(exact), document.digits, 'half-up'),
            )
            expect(each.promotions).toEqual([])
          }
          expect(document.promotions).toEqual([])
          expect(document.goods.gross).toBe(sum(document.lines.map(({ gross }) => gross)))
        },
      ),
      { numRuns: RUNS },
    )
  })
})

describe('a price that was settled', () => {
  test('holds whatever the quantity, and no promotion moves it', () => {
    const settled = {
      amount: decimal('5'),
      basis: 'net',
      by: { kind: 'desk', author: 'Maeve', reason: 'scratched' },
    } as const
    const priced = priceCart(prepared, {
      ...GORSEBACK,
      lines: [
        { variant: 'variant-PK-JR-340', quantity: decimal(96), extras: [], settled },
        { variant: 'variant-PK-JR-340', quantity: decimal(12), extras: [] },
      ],
      past: [],
    })
    if (!priced.ok) throw new Error(priced.error.code)
    const [byHand, own] = priced.value.lines
    expect(byHand).toMatchObject({ unit: '5', amount: { net: '480' }, discounts: [], list: null })
    expect(compare(own!.unit!, decimal(5))).toBe(1)
  })
})

describe('how a quote stands', () => {
  const offer = (until = '2026-12-09', more: Partial<Offer> = {}): Offer => ({
    ...{ until, terms: '30 days net', delivery: '', document: orderDocument([]) },
    lines: [offerLine('100', '60'), offerLine('100', '80', 0)],
    ...more,
  })
  const offerLine = (net: string, cost: string, insteadOf: number | null = null): OfferLine => ({
    ...{ variant: 'v', sku: 'S', name: 'Frames', extras: [], quantity: decimal(1), asked: 0, insteadOf },
    ...{ note: '', their: decimal(110), price: decimal(net), net: decimal(net), gross: decimal(net) },
    ...{ cost: decimal(cost), trace: [] },
  })
  const sides: Readonly<Partial<Record<QuoteStep['kind'], QuoteSide>>> = {
    ...{ answer: 'buyer', decline: 'buyer', accept: 'buyer', expire: 'clock' },
  }
  function after(...steps: readonly QuoteStep[]) {
    const events: QuoteEvent[] = []
    for (const step of steps) {
      const side = sides[step.kind] ?? 'merchant'
      const problem = checkQuoteStep(standingOfQuote(events), step, { side, today: TODAY, least: null })
      if (problem) throw new Error(JSON.stringify(problem))
      events.push({ step, at: 0, author: 'Maeve' })
    }
    return standingOfQuote(events)
  }
  const OFFER: QuoteStep = { kind: 'offer', offer: offer(), message: '' }
  const ANSWER: QuoteStep = { kind: 'answer', message: 'cheaper?' }
  const DECLINE: QuoteStep = { kind: 'decline', reason: 'price', message: '' }
  const REFUSE: QuoteStep = { kind: 'refuse', message: 'none left' }
  const ASK: QuoteStep = { kind: 'ask-approval', offer: offer(), message: '' }
  const ACCEPT: QuoteStep = { kind: 'accept', lines: [0], order: 10_001 }

  test.each([
    ['asked for', [], 'asked'],
    ['written to again before it is answered', [ANSWER], 'asked'],
    ['offered', [OFFER], 'offered'],
    ['answered, and offered anew', [OFFER, ANSWER, OFFER], 'offered'],
    ['refused, answered and offered after all', [REFUSE, ANSWER, OFFER], 'offered'],
    ['declined, and offered anew', [OFFER, DECLINE, OFFER], 'offered'],
    ['waiting for approval', [ASK], 'approval'],
    ['approved', [ASK, { kind: 'approve' }], 'offered'],
    ['sent back to where it was', [OFFER, ANSWER, ASK, { kind: 'send-back', reason: 'too low' }], 'answered'],
    ['ended and answered', [OFFER, { kind: 'expire' }, ANSWER], 'answered'],
    ['accepted', [OFFER, ACCEPT], 'accepted'],
  ] as const)('%s', (_why, steps, state) => {
    expect(after(...steps).state).toBe(state)
  })

  test('each offer is kept, and the last one stands', () => {
    const second = offer('2026-12-20')
    const standing = after(OFFER, ANSWER, { kind: 'offer', offer: second, message: '' })
    expect(standing.offers).toHaveLength(2)
    expect(standing.offer).toBe(second)
    expect(after(OFFER, ACCEPT).order).toBe(10_001)
  })

  const check = (
    steps: readonly QuoteStep[],
    step: QuoteStep,
    side: QuoteSide,
    today = TODAY,
    least: string | null = null,
  ) => checkQuoteStep(after(...steps), step, { side, today, least: least === null ? null : decimal(least) })

  test.each([
    ['a buyer who offers', [], OFFER, 'buyer', { code: 'not-theirs' }],
    ['a merchant who accepts', [OFFER], ACCEPT, 'merchant', { code: 'not-theirs' }],
    ['accepting what was not offered', [], ACCEPT, 'buyer', { code: 'not-now', state: 'asked' }],
    ['accepting twice', [OFFER, ACCEPT], ACCEPT, 'buyer', { code: 'not-now', state: 'accepted' }],
    ['offering what was ordered', [OFFER, ACCEPT], OFFER, 'merchant', { code: 'not-now', state: 'accepted' }],
    [
      'nothing but a line that is not there',
      [OFFER],
      { ...ACCEPT, lines: [7] },
      'buyer',
      { code: 'no-such-line', line: 7 },
    ],
    ['no line at all', [OFFER], { ...ACCEPT, lines: [] }, 'buyer', { code: 'nothing-offered' }],
    [
      'a line and what is offered instead of it',
      [OFFER],
      { ...ACCEPT, lines: [0, 1] },
      'buyer',
      { code: 'either-or', line: 1 },
    ],
    ['an empty answer', [OFFER], { kind: 'answer', message: ' ' }, 'buyer', { code: 'empty' }],
    [
      'an offer that ended before it was sent',
      [],
      { ...OFFER, offer: offer('2026-11-24') },
      'merchant',
      { code: 'until-past', until: '2026-11-24' },
    ],
    [
      'an offer of nothing',
      [],
      { ...OFFER, offer: offer(undefined, { lines: [] }) },
      'merchant',
      { code: 'nothing-offered' },
    ],
  ] as const)('%s is refused', (_why, steps, step, side, problem) => {
    expect(check(steps, step as QuoteStep, side)).toEqual(problem)
  })

  test('an offer can be accepted on its last day, and not on the day after', () => {
    expect(check([OFFER], ACCEPT, 'buyer', '2026-12-09')).toBeNull()
    expect(check([OFFER], ACCEPT, 'buyer', '2026-12-10')).toEqual({ code: 'expired', until: '2026-12-09' })
  })

  // Margins of 40 % and 20 %: (100 − 60) ÷ 100 and (100 − 80) ÷ 100.
  test('below the margin that staff may give somebody else has to approve', () => {
    const { lines } = offer()
    expect(linesBelow(lines, decimal(20))).toEqual([])
    expect(linesBelow(lines, decimal('20.1'))).toEqual([1])
    expect(check([], OFFER, 'merchant', TODAY, '40.1')).toEqual({
      code: 'needs-approval',
      lines: [0, 1],
      least: '40.1',
    })
    expect(check([], { ...OFFER, kind: 'ask-approval' } as QuoteStep, 'merchant', TODAY, '40.1')).toBeNull()
  })

  test('whatever is done in whatever order: only what is offered is accepted, and once', () => {
    const kinds = fc.constantFrom<QuoteStep>(
      OFFER,
      ASK,
      { kind: 'approve' },
      { kind: 'send-back', reason: 'no' },
      REFUSE,
      ANSWER,
      DECLINE,
      ACCEPT,
      { kind: 'expire' },
      { kind: 'note', text: 'hm' },
    )
    fc.assert(
      fc.property(fc.array(kinds, { maxLength: 12 }), (tried) => {
        const events: QuoteEvent[] = []
        for (const step of tried) {
          const standing = standingOfQuote(events)
          const side = sides[step.kind] ?? 'merchant'
          const isAllowed = checkQuoteStep(standing, step, { side, today: TODAY, least: null }) === null
          expect(isAllowed).toBe(quoteSteps(standing.state, side).has(step.kind))
          if (isAllowed) events.push({ step, at: 0, author: 'Maeve' })
        }
        const accepted = events.findIndex(({ step }) => step.kind === 'accept')
        if (accepted < 0) return
        expect(standingOfQuote(events.slice(0, accepted)).state).toBe('offered')
        expect(events.slice(accepted + 1).every(({ step }) => step.kind === 'note')).toBe(true)
        expect(standingOfQuote(events).state).toBe('accepted')
      }),
      { numRuns: 200 },
    )
  })
})
