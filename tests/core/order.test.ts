import { priceCart } from '@/core/cart/price-cart'
import { compare, decimal, type Decimal, subtract, sum, ZERO } from '@/core/decimal/decimal'
import { prepare } from '@/core/engine/prepare'
import { openPricingContextExactly } from '@/core/engine/price/open-pricing-context'
import { creditOf } from '@/core/order/credit'
import { makeOrder } from '@/core/order/make-order'
import type { OrderLine } from '@/core/order/order'
import type { OrderEvent, OrderStep } from '@/core/order/order-event'
import { checkStep, creditFor, standingOf, totalOf } from '@/core/order/standing'
import { orderDocument } from '@tests/fixtures/order-document'
import { EVERY_VARIANT, randomQuestion, randomStore } from '@tests/fixtures/random-store'
import fc from 'fast-check'

const RUNS = Number(process.env['STEPPE_RUNS'] ?? 60)
const ORDER = orderDocument([
  { variant: 'a', quantity: decimal(6) },
  { variant: 'b', quantity: decimal('2.5') },
])
const part = (quantity: number | string, line = 0) => ({ line, quantity: decimal(quantity) })
const send = (...parts: ReturnType<typeof part>[]): OrderStep => ({ kind: 'send', parts, tracking: '' })
const back = (...parts: ReturnType<typeof part>[]): OrderStep => ({
  ...{ kind: 'return', parts, reason: 'damaged', restocks: false },
})
const CONFIRM: OrderStep = { kind: 'confirm' }
const INVOICE: OrderStep = { kind: 'invoice' }
const CLOSE: OrderStep = { kind: 'close' }
const CANCEL: OrderStep = { kind: 'cancel', reason: 'changed their mind' }
const WHOLE = send(part(6), part('2.5', 1))

/** How an order stands after some steps, each of which had to be allowed. */
function after(...steps: readonly OrderStep[]) {
  const events: OrderEvent[] = []
  for (const step of steps) {
    const problem = checkStep(ORDER, standingOf(ORDER, events), step)
    if (problem) throw new Error(JSON.stringify(problem))
    events.push({ step, at: 0, author: 'Maeve', document: events.length + 1 })
  }
  return standingOf(ORDER, events)
}

describe('how an order stands', () => {
  test.each([
    ['nothing done yet', [], 'placed'],
    ['seen and accepted', [CONFIRM], 'confirmed'],
    ['one line of two sent', [send(part(6))], 'sent-in-part'],
    ['all sent, in two parts', [CONFIRM, send(part(6)), send(part('2.5', 1))], 'sent'],
    ['some sent, the rest cancelled', [send(part(2)), CANCEL], 'sent'],
    ['cancelled before anything was sent', [CONFIRM, CANCEL], 'cancelled'],
    ['invoiced', [WHOLE, INVOICE], 'invoiced'],
    ['paid', [WHOLE, INVOICE, CLOSE], 'closed'],
    ['back again after it was paid', [WHOLE, INVOICE, CLOSE, back(part(6))], 'closed'],
  ] as const)('%s', (_why, steps, state) => {
    expect(after(...steps).state).toBe(state)
  })

  test('what each line has left to send, to keep and to bring back', () => {
    const { lines } = after(send(part(4), part(1, 1)), CANCEL, back(part(1)))
    expect(lines).toEqual([
      { sent: '4', cancelled: '2', returned: '1', open: '0', kept: '3' },
      { sent: '1', cancelled: '1.5', returned: '0', open: '0', kept: '1' },
    ])
  })

  test.each([
    ['closed before it is invoiced', [WHOLE], CLOSE, { code: 'not-now', state: 'sent' }],
    [
      'invoiced before all of it is sent',
      [send(part(1))],
      INVOICE,
      { code: 'not-now', state: 'sent-in-part' },
    ],
    ['sent after it was cancelled', [CANCEL], WHOLE, { code: 'not-now', state: 'cancelled' }],
    ['nothing came yet', [CONFIRM], back(part(1)), { code: 'not-now', state: 'confirmed' }],
    [
      'more than was sent',
      [send(part(4))],
      back(part(5)),
      { code: 'too-many', line: 0, quantity: '5', most: '4' },
    ],
    [
      'more than was sent, in two parts',
      [send(part(4))],
      back(part(3), part(2)),
      { code: 'too-many', line: 0, quantity: '5', most: '4' },
    ],
    [
      'more than what has not come back yet',
      [send(part(4)), back(part(3))],
      back(part(2)),
      { code: 'too-many', line: 0, quantity: '2', most: '1' },
    ],
    ['half a piece', [], send(part('0.5')), { code: 'not-whole', line: 0, quantity: '0.5' }],
    ['none', [], send(part(0)), { code: 'not-above-zero', line: 0, quantity: '0' }],
    ['a line it has not', [], send(part(1, 7)), { code: 'no-such-line', line: 7 }],
    ['no line', [], send(), { code: 'nothing-chosen' }],
    ['no reason', [WHOLE], { ...back(part(1)), reason: ' ' } as OrderStep, { code: 'no-reason' }],
    ['an empty note', [], { kind: 'note', text: '' } as OrderStep, { code: 'empty-note' }],
  ] as const)('refused: %s', (_why, steps, step, problem) => {
    expect(checkStep(ORDER, after(...steps), step)).toEqual(problem)
  })
})

describe('what is credited', () => {
  test('nothing sent and cancelled: all of it, delivery included; else delivery stays owed', () => {
    const withDelivery = {
      ...ORDER,
      delivery: { net: decimal(5), tax: decimal(1), gross: decimal(6) },
      total: { net: decimal(25), tax: decimal(5), gross: decimal(30) },
    }
    const events = (...steps: OrderStep[]) =>
      steps.map((step): OrderEvent => ({ step, at: 0, author: '', document: null }))
    expect(standingOf(withDelivery, events(CANCEL)).due).toEqual({ net: '0', tax: '0', gross: '0' })
    const whole = standingOf(withDelivery, events(WHOLE, back(part(6), part('2.5', 1))))
    expect(whole.due).toEqual(withDelivery.delivery)
  })

  // Source: checks.md BU2: three goods of 3.99 for 10.00 together; by largest remainder 3.33, 3.33 and 3.34.
  test('a bundle that comes back piece by piece is refunded to the cent', () => {
    const line = (net: string): OrderLine => ({
      ...(ORDER.lines[0] as OrderLine),
      ...{ quantity: decimal(1), net: decimal(net), tax: ZERO, gross: decimal(net), taxes: [] },
    })
    const refunds = ['3.33', '3.33', '3.34'].map((net) => creditOf(line(net), ZERO, decimal(1), 2).net)
    expect(sum(refunds)).toBe('10')
  })

  test.each([
    ['thirds of a cent each', '10.00', 3, ['3.33', '3.34', '3.33']],
    ['nothing left over', '9.99', 3, ['3.33', '3.33', '3.33']],
    ['a cent among many', '0.01', 4, ['0', '0.01', '0', '0']],
  ])('in equal parts: %s', (_why, net, times, expected) => {
    const line = {
      ...(ORDER.lines[0] as OrderLine),
      ...{ quantity: decimal(times), net: decimal(net), tax: ZERO, gross: decimal(net), taxes: [] },
    }
    const parts = Array.from(
      { length: times },
      (_, at) => creditOf(line, decimal(at), decimal(at + 1), 2).gross,
    )
    expect(parts).toEqual(expected)
  })

  const cents = (most: number) =>
    fc.integer({ min: 0, max: most }).map((value) => subtract(decimal(value), ZERO))
  test('whatever the parts, they come to the line, and net and tax to gross in each', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 40 }),
        cents(100_000),
        fc.array(cents(20_000), { maxLength: 3 }),
        fc.array(fc.integer({ min: 1, max: 9 }), { minLength: 1, maxLength: 12 }),
        fc.constantFrom(0, 2, 3),
        (quantity, net, taxes, steps, digits) => {
          const tax = sum(taxes)
          const line: OrderLine = {
            ...(ORDER.lines[0] as OrderLine),
            ...{ quantity: decimal(quantity), net, tax, gross: sum([net, tax]) },
            taxes: taxes.map((amount, at) => ({ name: `T${at}`, percent: decimal(5), amount })),
          }
          const ends = [
            ...new Set(
              steps.reduce<number[]>(
                (all, step) => [...all, Math.min(quantity, (all.at(-1) ?? 0) + step)],
                [],
              ),
            ),
          ]
          if (ends.at(-1) !== quantity) ends.push(quantity)
          const credits = ends.map((end, at) =>
            creditOf(line, decimal(ends[at - 1] ?? 0), decimal(end), digits),
          )
          const whole = totalOf(credits)
          expect(whole).toEqual({ net, tax, gross: line.gross })
          for (const credit of credits) {
            expect(sum([credit.net, credit.tax])).toBe(credit.gross)
            expect(compare(credit.gross, ZERO)).toBeGreaterThanOrEqual(0)
          }
        },
      ),
      { numRuns: RUNS * 5 },
    )
  })

  test('what a step will credit is what it credits', () => {
    const events: OrderEvent[] = [{ step: send(part(5), part(1, 1)), at: 0, author: '', document: 1 }]
    for (const step of [back(part(2)), CANCEL, back(part(1), part(1, 1))]) {
      const before = standingOf(ORDER, events)
      const promised = creditFor(ORDER, before, step)
      events.push({ step, at: 0, author: '', document: null })
      const { credited } = standingOf(ORDER, events)
      expect(subtract(credited.gross, before.credited.gross)).toBe(promised.gross)
      expect(subtract(credited.tax, before.credited.tax)).toBe(promised.tax)
    }
  })
})

test('an order says what its cart came to, line by line, and how each price came about', () => {
  let traced = 0
  fc.assert(
    fc.property(
      randomStore,
      randomQuestion,
      fc.array(fc.nat(), { minLength: 1, maxLength: 4 }),
      (store, from, picks) => {
        const prepared = prepare(store)
        const lines = picks.map((pick, at) => ({
          variant: EVERY_VARIANT[pick % EVERY_VARIANT.length] as string,
          quantity: decimal((pick % 7) + at + 1),
          extras: pick % 3 === 0 ? ['engraving'] : [],
        }))
        const question = { ...from, lines, past: [] }
        const priced = priceCart(prepared, question)
        const opened = openPricingContextExactly(prepared, question)
        if (!priced.ok || !opened.ok) return
        const cart = priced.value
        const head = {
          ...{
            buyer: 'B',
            email: 'b@example.com',
            payment: 'card',
            reference: 'PO 7',
            placedBy: null,
            changeSet: 3,
          },
          address: ORDER.address,
        }
        const order = makeOrder(prepared, opened.value, cart, head)
        expect(order).toMatchObject(head)
        const whole = totalOf(order.lines)
        expect(whole).toEqual(cart.goods)
        expect(totalOf([whole, order.delivery, order.paymentCharge])).toEqual(order.total)
        for (const line of order.lines) {
          expect(sum([line.net, line.tax])).toBe(line.gross)
          expect(sum(line.taxes.map(({ amount }) => amount))).toBe(line.tax)
          const own = cart.lines.find(
            (each) => each.variant === line.variant && each.quantity === line.quantity,
          )
          const last = line.trace.at(-1)
          if (!own || own.extras.length > 0 || line.extras.length > 0 || !last) continue
          // The last step is the price of one piece.
          expect((last as { readonly amount: Decimal }).amount).toBe(own.unit)
          traced += 1
        }
      },
    ),
    { numRuns: RUNS },
  )
  expect(traced).toBeGreaterThan(10)
})
