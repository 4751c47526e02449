import { add, compare, type Decimal, isPositive, subtract, sum, ZERO } from '../decimal/decimal'
import { creditOf, creditOfTax } from './credit'
import type { OrderAmount, OrderDocument, OrderLine } from './order'
import type { OrderEvent } from './order-event'
import { type LineStanding, standingOf, totalOf } from './standing'

/** A line of an invoice or a credit note. */
interface InvoicedLine {
  /** Its position in the order. */
  readonly line: number
  readonly quantity: Decimal
  readonly amount: OrderAmount
}

/** One sum of the same tax at the same rate. */
interface InvoicedTax {
  readonly name: string
  readonly percent: Decimal
  /** What it falls on; `null` where it falls on another tax as well, which is not told line by line. */
  readonly on: Decimal | null
  readonly amount: Decimal
}

/** What is owed by an invoice, or given back by a credit note: all amounts above zero. */
export interface Invoice {
  readonly number: number
  /** Epoch milliseconds. */
  readonly at: number
  /** Why something is given back; empty on an invoice. */
  readonly reason: string
  readonly lines: readonly InvoicedLine[]
  readonly delivery: OrderAmount
  readonly paymentCharge: OrderAmount
  readonly taxes: readonly InvoicedTax[]
  readonly total: OrderAmount
}

const NOTHING: OrderAmount = { net: ZERO, tax: ZERO, gross: ZERO }

/**
 * The invoice of an order: what was sent and kept when it was made, with delivery and what was charged.
 *
 * Holds   lines, delivery and charge come to the total, and the taxes to its tax; less all credit notes it is what is due.
 * Errors  `null` where the order has no invoice of the number.
 * Source  EN 16931 BR-CO-10, -13, -14 and -15 (from memory). BR-CO-17 holds for what was sent whole, as on the order; where some of a
 *         line was cancelled before, its share of the tax is rounded by itself and may differ from base × rate by a cent.
 */
export function invoiceOf(
  order: OrderDocument,
  events: readonly OrderEvent[],
  number: number,
): Invoice | null {
  const place = events.findIndex(({ step, document }) => step.kind === 'invoice' && document === number)
  const event = events[place]
  if (!event) return null
  const before = standingOf(order, events.slice(0, place))
  const taken = before.lines.map(({ cancelled, returned }) => add(cancelled, returned))
  const lines = order.lines.flatMap((line, at): readonly InvoicedLine[] => {
    const { kept } = before.lines[at] as LineStanding
    if (!isPositive(kept)) return []
    const credited = creditOf(line, ZERO, taken[at] as Decimal, order.digits)
    return [{ line: at, quantity: kept, amount: less(line, credited) }]
  })
  const { delivery, paymentCharge } = order
  return {
    number,
    at: event.at,
    reason: '',
    lines,
    delivery,
    paymentCharge,
    taxes: taxesLess(
      order,
      taken.map((quantity): Span => [ZERO, quantity]),
    ),
    total: totalOf([...lines.map(({ amount }) => amount), delivery, paymentCharge]),
  }
}

/** A credit note: what came back after the invoice, at what was paid for it. Errors  `null` for none of the number. */
export function creditNoteOf(
  order: OrderDocument,
  events: readonly OrderEvent[],
  number: number,
): Invoice | null {
  const place = events.findIndex(({ step, document }) => step.kind === 'return' && document === number)
  const event = events[place]
  if (event?.step.kind !== 'return') return null
  const { parts, reason } = event.step
  const before = standingOf(order, events.slice(0, place))
  const spans = order.lines.map((_, at): Span => {
    const { cancelled, returned } = before.lines[at] as LineStanding
    const from = add(cancelled, returned)
    const back = sum(parts.filter(({ line }) => line === at).map(({ quantity }) => quantity))
    return [from, add(from, back)]
  })
  const lines = order.lines.flatMap((line, at): readonly InvoicedLine[] => {
    const [from, to] = spans[at] as Span
    if (compare(from, to) === 0) return []
    return [{ line: at, quantity: subtract(to, from), amount: creditOf(line, from, to, order.digits) }]
  })
  return {
    number,
    at: event.at,
    reason,
    lines,
    delivery: NOTHING,
    paymentCharge: NOTHING,
    taxes: taxesOf(order, spans).filter(({ amount }) => amount !== ZERO),
    total: totalOf(lines.map(({ amount }) => amount)),
  }
}

/** From how much of a line on until how much of it something is credited. */
type Span = readonly [from: Decimal, to: Decimal]

function less(whole: OrderAmount, part: OrderAmount): OrderAmount {
  return {
    net: subtract(whole.net, part.net),
    tax: subtract(whole.tax, part.tax),
    gross: subtract(whole.gross, part.gross),
  }
}

/** Each tax of the order on parts of its lines. */
function taxesOf(order: OrderDocument, spans: readonly Span[]): readonly InvoicedTax[] {
  return order.taxes.map(({ name, percent, on }) => {
    const carrying = order.lines.map((line) =>
      line.taxes.find((tax) => tax.name === name && tax.percent === percent),
    )
    const amounts = carrying.map((tax, at) =>
      tax ? creditOfTax(tax.amount, order.lines[at] as OrderLine, spans[at] as Span, order.digits) : ZERO,
    )
    const nets = order.lines.map((line, at) =>
      carrying[at] ? creditOf(line, ...(spans[at] as Span), order.digits).net : ZERO,
    )
    return { name, percent, on: isOnNets(order, name, percent, on) ? sum(nets) : null, amount: sum(amounts) }
  })
}

function taxesLess(order: OrderDocument, spans: readonly Span[]): readonly InvoicedTax[] {
  return taxesOf(order, spans).map((credited, at) => {
    const { name, percent, on, amount } = order.taxes[at] as OrderDocument['taxes'][number]
    return {
      name,
      percent,
      on: credited.on === null && credited.amount !== ZERO ? null : subtract(on, credited.on ?? ZERO),
      amount: subtract(amount, credited.amount),
    }
  })
}

/** Whether a tax falls on nets alone: on another tax, too, it falls on more than goods, delivery and charge come to. */
function isOnNets(order: OrderDocument, name: string, percent: Decimal, on: Decimal): boolean {
  const carrying = order.lines.filter((line) =>
    line.taxes.some((tax) => tax.name === name && tax.percent === percent),
  )
  const most = sum([...carrying.map(({ net }) => net), order.delivery.net, order.paymentCharge.net])
  return compare(on, most) <= 0
}
