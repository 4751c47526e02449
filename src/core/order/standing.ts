import { add, compare, type Decimal, isPositive, scaleOf, subtract, sum, ZERO } from '../decimal/decimal'
import { creditOf } from './credit'
import type { OrderAmount, OrderDocument, OrderLine } from './order'
import type { LinePart, OrderEvent, OrderState, OrderStep, OrderStepKind } from './order-event'

/** What became of a line. */
export interface LineStanding {
  readonly sent: Decimal
  readonly cancelled: Decimal
  readonly returned: Decimal
  /** What is still to be sent. */
  readonly open: Decimal
  /** What was sent and has not come back. */
  readonly kept: Decimal
}

/** How an order stands after all that was done with it. */
export interface OrderStanding {
  readonly state: OrderState
  readonly lines: readonly LineStanding[]
  /** What is owed no more: for what was cancelled and what came back. */
  readonly credited: OrderAmount
  /** What is to be paid in the end. */
  readonly due: OrderAmount
  /** Number of its invoice; `null` before there is one. */
  readonly invoice: number | null
  /** What can be done with it now. */
  readonly steps: ReadonlySet<OrderStepKind>
}

/** Why a step cannot be taken. `line` is the position of a line. */
export type OrderProblem =
  | { readonly code: 'not-now'; readonly state: OrderState }
  | { readonly code: 'nothing-chosen' }
  | { readonly code: 'no-such-line'; readonly line: number }
  | { readonly code: 'not-above-zero'; readonly line: number; readonly quantity: Decimal }
  | { readonly code: 'not-whole'; readonly line: number; readonly quantity: Decimal }
  | { readonly code: 'too-many'; readonly line: number; readonly quantity: Decimal; readonly most: Decimal }
  | { readonly code: 'no-reason' }
  | { readonly code: 'empty-note' }

const NOTHING: OrderAmount = { net: ZERO, tax: ZERO, gross: ZERO }

/** What every step so far has made of an order. */
export function standingOf(order: OrderDocument, events: readonly OrderEvent[]): OrderStanding {
  const moved = order.lines.map(() => ({ sent: ZERO, cancelled: ZERO, returned: ZERO }))
  let reached: 'placed' | 'confirmed' | 'invoiced' | 'closed' = 'placed'
  let invoice: number | null = null
  const move = (field: 'sent' | 'cancelled' | 'returned', parts: readonly LinePart[]) => {
    for (const { line, quantity } of parts) {
      const of = moved[line]
      if (of) of[field] = add(of[field], quantity)
    }
  }
  for (const { step, document } of events) {
    if (step.kind === 'confirm') reached = 'confirmed'
    else if (step.kind === 'send') move('sent', step.parts)
    else if (step.kind === 'return') move('returned', step.parts)
    else if (step.kind === 'cancel') move('cancelled', openParts(order, moved))
    else if (step.kind === 'close') reached = 'closed'
    else if (step.kind === 'invoice') {
      reached = 'invoiced'
      invoice = document
    }
  }
  const lines = order.lines.map(({ quantity }, at): LineStanding => {
    const { sent, cancelled, returned } = moved[at] as (typeof moved)[number]
    const open = subtract(subtract(quantity, sent), cancelled)
    return { sent, cancelled, returned, open, kept: subtract(sent, returned) }
  })
  const state = stateOf(reached, lines)
  // Delivery and charges are owed as long as anything was sent.
  const credited =
    state === 'cancelled'
      ? order.total
      : totalOf(lines.map((line, at) => creditedOn(order, order.lines[at] as OrderLine, line)))
  return {
    state,
    lines,
    credited,
    due: {
      net: subtract(order.total.net, credited.net),
      tax: subtract(order.total.tax, credited.tax),
      gross: subtract(order.total.gross, credited.gross),
    },
    invoice,
    steps: stepsFrom(state, lines),
  }
}

function stateOf(
  reached: 'placed' | 'confirmed' | 'invoiced' | 'closed',
  lines: readonly LineStanding[],
): OrderState {
  if (reached === 'invoiced' || reached === 'closed') return reached
  const isSent = lines.some(({ sent }) => isPositive(sent))
  const isOpen = lines.some(({ open }) => isPositive(open))
  if (isSent) return isOpen ? 'sent-in-part' : 'sent'
  return isOpen ? reached : 'cancelled'
}

function stepsFrom(state: OrderState, lines: readonly LineStanding[]): ReadonlySet<OrderStepKind> {
  const steps: OrderStepKind[] = ['note']
  if (state === 'placed') steps.push('confirm')
  if (state === 'placed' || state === 'confirmed' || state === 'sent-in-part') steps.push('send', 'cancel')
  if (state === 'sent') steps.push('invoice')
  if (state === 'invoiced') steps.push('close')
  if (lines.some(({ kept }) => isPositive(kept))) steps.push('return')
  return new Set(steps)
}

/** What was not sent yet, as parts. */
export function openParts(
  order: OrderDocument,
  lines: readonly { readonly sent: Decimal; readonly cancelled: Decimal }[],
): readonly LinePart[] {
  return order.lines.flatMap(({ quantity }, line) => {
    const { sent, cancelled } = lines[line] as (typeof lines)[number]
    const open = subtract(subtract(quantity, sent), cancelled)
    return isPositive(open) ? [{ line, quantity: open }] : []
  })
}

function creditedOn(
  order: OrderDocument,
  line: OrderLine,
  { cancelled, returned }: LineStanding,
): OrderAmount {
  return creditOf(line, ZERO, add(cancelled, returned), order.digits)
}

/**
 * What a step takes off what is owed: a return what was paid for what comes back, promotions and taxes included, a cancellation
 * what has not been sent.
 */
export function creditFor(order: OrderDocument, standing: OrderStanding, step: OrderStep): OrderAmount {
  if (step.kind !== 'return' && step.kind !== 'cancel') return NOTHING
  const parts = step.kind === 'return' ? step.parts : openParts(order, standing.lines)
  if (step.kind === 'cancel' && standing.lines.every(({ sent }) => sent === ZERO)) return standing.due
  return totalOf(
    parts.map(({ line, quantity }) => {
      const { cancelled, returned } = standing.lines[line] as LineStanding
      const before = add(cancelled, returned)
      return creditOf(order.lines[line] as OrderLine, before, add(before, quantity), order.digits)
    }),
  )
}

export function totalOf(amounts: readonly OrderAmount[]): OrderAmount {
  return {
    net: sum(amounts.map(({ net }) => net)),
    tax: sum(amounts.map(({ tax }) => tax)),
    gross: sum(amounts.map(({ gross }) => gross)),
  }
}

/** Why a step cannot be taken as an order stands; `null` where it can. */
export function checkStep(
  order: OrderDocument,
  standing: OrderStanding,
  step: OrderStep,
): OrderProblem | null {
  if (!standing.steps.has(step.kind)) return { code: 'not-now', state: standing.state }
  switch (step.kind) {
    case 'note':
      return step.text.trim() === '' ? { code: 'empty-note' } : null
    case 'cancel':
      return step.reason.trim() === '' ? { code: 'no-reason' } : null
    case 'send':
      return checkParts(order, step.parts, (line) => (standing.lines[line] as LineStanding).open)
    case 'return':
      return (
        checkParts(order, step.parts, (line) => (standing.lines[line] as LineStanding).kept) ??
        (step.reason.trim() === '' ? { code: 'no-reason' } : null)
      )
    default:
      return null
  }
}

function checkParts(
  order: OrderDocument,
  parts: readonly LinePart[],
  mostOf: (line: number) => Decimal,
): OrderProblem | null {
  if (parts.length === 0) return { code: 'nothing-chosen' }
  const wanted = new Map<number, Decimal>()
  for (const { line, quantity } of parts) {
    const of = order.lines[line]
    if (!of) return { code: 'no-such-line', line }
    if (!isPositive(quantity)) return { code: 'not-above-zero', line, quantity }
    // What was bought in whole pieces goes and comes back in whole pieces.
    if (scaleOf(of.quantity) === 0 && scaleOf(quantity) > 0) return { code: 'not-whole', line, quantity }
    wanted.set(line, add(wanted.get(line) ?? ZERO, quantity))
  }
  for (const [line, quantity] of wanted) {
    const most = mostOf(line)
    if (compare(quantity, most) > 0) return { code: 'too-many', line, quantity, most }
  }
  return null
}
