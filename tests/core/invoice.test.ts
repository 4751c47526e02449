import { priceCart } from '@/core/cart/price-cart'
import { decimal, type Decimal, multiply, subtract, sum, ZERO } from '@/core/decimal/decimal'
import { toFraction } from '@/core/decimal/fraction'
import { roundToDigits } from '@/core/decimal/rounding'
import { buyerContext } from '@/core/engine/context/buyer-context'
import { openPricingContextExactly } from '@/core/engine/price/open-pricing-context'
import { creditNoteOf, type Invoice, invoiceOf } from '@/core/order/invoice'
import { makeOrder } from '@/core/order/make-order'
import type { OrderDocument } from '@/core/order/order'
import type { LinePart, OrderEvent, OrderStep } from '@/core/order/order-event'
import { checkStep, standingOf, totalOf } from '@/core/order/standing'
import { goods, TWO_RATES, writtenPrepared } from '@tests/fixtures/written-store'
import { orderDocument } from '@tests/fixtures/order-document'
import fc from 'fast-check'

const RUNS = Number(process.env['STEPPE_RUNS'] ?? 120)
const AT = Date.parse('2027-03-01T12:00:00Z')

/** An order of goods at two rates of tax, with a delivery that is taxed as they are. */
function order(
  lines: readonly (readonly [price: string, quantity: number, reduced: boolean])[],
): OrderDocument {
  const prepared = writtenPrepared({
    ...TWO_RATES,
    settings: { taxClass: 'standard', deliveryPrice: '6.90', taxRounding: 'document' },
    categories: [{ code: 'c', name: 'C' }],
    ...goods(
      ...lines.map(([price, , reduced], at): [string, string, string, object] => [
        ...([`g${at}`, price, 'c'] as const),
        reduced ? { taxClass: 'reduced' } : {},
      ]),
    ),
  })
  const from = buyerContext({ kind: 'guest' }, AT)
  const wanted = lines.map(([, quantity], at) => ({
    variant: `g${at}`,
    quantity: decimal(quantity),
    extras: [],
  }))
  const priced = priceCart(prepared, { ...from, lines: wanted, past: [] })
  const opened = openPricingContextExactly(prepared, from)
  if (!priced.ok || !opened.ok) throw new Error('no price')
  const { address } = orderDocument([])
  return makeOrder(prepared, opened.value, priced.value, {
    ...{
      buyer: 'B',
      email: 'b@example.com',
      payment: 'card',
      reference: '',
      placedBy: null,
      changeSet: null,
      address,
    },
  })
}

/** Some steps, each with the number of the document it makes. */
function take(document: OrderDocument, steps: readonly OrderStep[]): readonly OrderEvent[] {
  const events: OrderEvent[] = []
  for (const step of steps) {
    const problem = checkStep(document, standingOf(document, events), step)
    if (problem) throw new Error(JSON.stringify(problem))
    events.push({ step, at: AT, author: '', document: events.length + 1 })
  }
  return events
}

const send = (parts: readonly LinePart[]): OrderStep => ({ kind: 'send', parts, tracking: '' })
const back = (parts: readonly LinePart[]): OrderStep => ({
  ...{ kind: 'return', parts, reason: 'wrong', restocks: true },
})
const part = (line: number, quantity: number): LinePart => ({ line, quantity: decimal(quantity) })

/** What EN 16931 asks of any invoice: the sums it names, from its own lines. */
function checkTotals(invoice: Invoice): void {
  // BR-CO-10 and -13: lines and charges come to the total without tax. BR-CO-14: taxes to the total tax. BR-CO-15: both to the whole.
  const { lines, delivery, paymentCharge, taxes, total } = invoice
  const whole = totalOf([...lines.map(({ amount }) => amount), delivery, paymentCharge])
  expect(whole).toEqual(total)
  expect(sum(taxes.map(({ amount }) => amount))).toBe(total.tax)
  expect(sum([total.net, total.tax])).toBe(total.gross)
}

const centsOff = (on: Decimal, percent: Decimal, amount: Decimal): number => {
  const exact = multiply(multiply(on, percent), decimal('0.01'))
  return Math.abs(Number(subtract(roundToDigits(toFraction(exact), 2, 'half-up'), amount))) * 100
}

describe('an invoice', () => {
  // Source: EN 16931 BR-CO-17 and BR-S-08 (from memory): of what was sent whole, each tax is base × rate, rounded once.
  test('of what was sent whole says what the order says, each tax rounded once on its base', () => {
    const document = order([
      ['10.02', 1, false],
      ['5.02', 3, false],
      ['3.33', 7, true],
    ])
    const events = take(document, [
      send(document.lines.map(({ quantity }, line) => ({ line, quantity }))),
      { kind: 'invoice' },
    ])
    const invoice = invoiceOf(document, events, 2) as Invoice
    checkTotals(invoice)
    expect(invoice.total).toEqual(document.total)
    expect(invoice.taxes).toEqual(document.taxes)
    for (const { on, percent, amount } of invoice.taxes) expect(centsOff(on ?? ZERO, percent, amount)).toBe(0)
    expect(invoiceOf(document, events, 3)).toBeNull()
    expect(creditNoteOf(document, events, 2)).toBeNull()
  })

  test('by hand: four of twelve cancelled, then one of three brought back', () => {
    const document = order([
      ['21.65', 12, false],
      ['8.17', 3, true],
    ])
    const events = take(document, [
      send([part(0, 8), part(1, 3)]),
      { kind: 'cancel', reason: 'no more pine' },
      { kind: 'invoice' },
      back([part(1, 1)]),
    ])
    // 8 × 21.65, 3 × 8.17 and 6.90 delivered; 20 % and 10 % on shares of what was taxed.
    const invoice = invoiceOf(document, events, 3) as Invoice
    checkTotals(invoice)
    expect(invoice.lines.map(({ quantity, amount }) => [quantity, amount.net])).toEqual([
      ['8', '173.2'],
      ['3', '24.51'],
    ])
    expect(invoice.total.net).toBe('204.61')
    const note = creditNoteOf(document, events, 4) as Invoice
    checkTotals(note)
    expect(note).toMatchObject({ reason: 'wrong', total: { net: '8.17', tax: '0.82', gross: '8.99' } })
    expect(note.taxes).toEqual([expect.objectContaining({ percent: '10', on: '8.17', amount: '0.82' })])
    expect(subtract(invoice.total.gross, note.total.gross)).toBe(standingOf(document, events).due.gross)
  })

  test('whatever was sent, cancelled and brought back: invoice less credit notes is what is due, to the cent', () => {
    const line = fc.tuple(
      fc.integer({ min: 1, max: 9_999 }).map((cents) => (cents / 100).toFixed(2)),
      fc.integer({ min: 1, max: 12 }),
      fc.boolean(),
    )
    fc.assert(
      fc.property(
        fc.array(line, { minLength: 1, maxLength: 5 }),
        fc.array(fc.nat(100), { minLength: 12, maxLength: 12 }),
        (lines, picks) => {
          const document = order(lines)
          let pick = 0
          const some = (most: number) =>
            Math.floor(((picks[pick++ % picks.length] as number) / 101) * (most + 1))
          const partsOf = (most: (line: number) => number) =>
            document.lines.flatMap((_, at) => {
              const quantity = some(most(at))
              return quantity > 0 ? [part(at, quantity)] : []
            })
          const steps: OrderStep[] = []
          const stand = () => standingOf(document, take(document, steps))
          const sent = partsOf((at) => Number(document.lines[at]?.quantity))
          if (sent.length === 0) return
          steps.push(send(sent))
          const early = partsOf((at) => Number(stand().lines[at]?.kept))
          if (early.length > 0) steps.push(back(early))
          if (stand().state === 'sent-in-part') steps.push({ kind: 'cancel', reason: 'no more' })
          steps.push({ kind: 'invoice' })
          const number = steps.length
          for (let time = 0; time < 2; time += 1) {
            const late = partsOf((at) => Number(stand().lines[at]?.kept))
            if (late.length > 0) steps.push(back(late))
          }
          const events = take(document, steps)
          const invoice = invoiceOf(document, events, number) as Invoice
          checkTotals(invoice)
          const notes = events.flatMap(({ step, document: each }, at) =>
            step.kind === 'return' && at >= number
              ? [creditNoteOf(document, events, Number(each)) as Invoice]
              : [],
          )
          notes.forEach(checkTotals)
          const { due } = standingOf(document, events)
          expect(subtract(invoice.total.gross, sum(notes.map(({ total }) => total.gross)))).toBe(due.gross)
          expect(subtract(invoice.total.tax, sum(notes.map(({ total }) => total.tax)))).toBe(due.tax)
          // What was cancelled line by line is rounded line by line: at most half a cent each.
          for (const { on, percent, amount } of invoice.taxes)
            if (on !== null)
              expect(centsOff(on, percent, amount)).toBeLessThanOrEqual(1 + document.lines.length)
        },
      ),
      { numRuns: RUNS },
    )
  })
})
