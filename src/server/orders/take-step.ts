import 'server-only'

import type { OrderDocument } from '@/core/order/order'
import type { LinePart, OrderEvent, OrderStep, OrderStepKind } from '@/core/order/order-event'
import {
  checkStep,
  type OrderProblem,
  openParts,
  type OrderStanding,
  standingOf,
} from '@/core/order/standing'
import { eq } from 'drizzle-orm'
import type { Transaction } from '../changes/commit-outcome'
import { requireRoom } from '../database/disk-room'
import { nextNumber } from '../database/number-series'
import { orderEvents, orders, promotionUses } from '../database/selling-schema'
import type { Steppe } from '../engine/steppe'
import { queueMail, wakeMails } from '../mails/queue-mail'
import { moveStock, type OrderedStock } from '../stock/move-stock'
import { noticeStock } from '../stock/notice-stock'
import { findOrder } from './order-rows'

export type StepOutcome =
  | { readonly ok: true; readonly standing: OrderStanding; readonly event: OrderEvent }
  | { readonly ok: false; readonly code: 'unknown-order' }
  /** Somebody took a step since the order was looked at. */
  | { readonly ok: false; readonly code: 'stale' }
  | { readonly ok: false; readonly code: 'refused'; readonly problem: OrderProblem }

/** What the buyer gets a mail of. */
const TOLD: ReadonlySet<OrderStepKind> = new Set(['confirm', 'send', 'invoice', 'cancel', 'return'])

/** The series a step takes a number from. What comes back before there is an invoice is not on it, and needs no credit note. */
function seriesOf({ kind }: OrderStep, { invoice }: OrderStanding) {
  if (kind === 'send') return 'delivery-note'
  if (kind === 'invoice') return 'invoice'
  return kind === 'return' && invoice !== null ? 'credit-note' : null
}

/**
 * Takes a step with an order: what it does to stock and to uses of promotions happens with it, or nothing does. `seen` is how many
 * steps had been taken when the order was looked at.
 *
 * Errors  returned as `StepOutcome` says. Throws `DiskFullError`.
 */
export async function takeStep(
  steppe: Steppe,
  number: number,
  seen: number,
  step: OrderStep,
  by: { readonly author: string; readonly at: Date },
): Promise<StepOutcome> {
  requireRoom(steppe)
  let moved: readonly string[] = []
  const outcome = await steppe.database.transaction(async (transaction): Promise<StepOutcome> => {
    // Two who act at once act one after the other.
    const [locked] = await transaction
      .select({ version: orders.version })
      .from(orders)
      .where(eq(orders.number, number))
      .for('update')
    const order = locked ? await findOrder(transaction, number) : null
    if (!order) return { ok: false, code: 'unknown-order' }
    const { document, events } = order
    if (events.length !== seen) return { ok: false, code: 'stale' }
    const before = standingOf(document, events)
    const problem = checkStep(document, before, step)
    if (problem) return { ok: false, code: 'refused', problem }
    const series = seriesOf(step, before)
    const event: OrderEvent = {
      step,
      at: by.at.getTime(),
      author: by.author,
      document: series ? await nextNumber(transaction, series) : null,
    }
    const standing = standingOf(document, [...events, event])
    await transaction.insert(orderEvents).values({ order: number, version: seen + 1, event })
    await transaction
      .update(orders)
      .set({ state: standing.state, version: seen + 1, due: standing.due.gross })
      .where(eq(orders.number, number))
    if (TOLD.has(step.kind))
      await queueMail(
        transaction,
        { to: document.email, account: order.account, at: by.at },
        { kind: 'order-step', order: number, step: step.kind, event: seen },
      )
    moved = await moveFor(transaction, document, before, event, number)
    // Of an order that never came about no use of a promotion counts.
    if (standing.state === 'cancelled')
      await transaction.delete(promotionUses).where(eq(promotionUses.order, number))
    return { ok: true, standing, event }
  })
  if (outcome.ok) {
    steppe.sync()
    wakeMails(steppe)
  }
  await noticeStock(steppe, moved)
  return outcome
}

/** Moves the stock a step moves. Resolves to the variants it moved. */
async function moveFor(
  transaction: Transaction,
  document: OrderDocument,
  before: OrderStanding,
  { step, at, author }: OrderEvent,
  order: number,
): Promise<readonly string[]> {
  const note = { at: new Date(at), author, order, note: `Order ${order}` }
  const of = (parts: readonly LinePart[]): readonly OrderedStock[] =>
    parts.flatMap(({ line, quantity }) => {
      const variant = document.lines[line]?.variant
      return variant === undefined ? [] : [{ variant, quantity }]
    })
  const move = async (kind: Parameters<typeof moveStock>[1], ordered: readonly OrderedStock[]) => {
    await moveStock(transaction, kind, ordered, note)
    return ordered.map(({ variant }) => variant)
  }
  if (step.kind === 'send') return move('sold', of(step.parts))
  if (step.kind === 'cancel') return move('released', of(openParts(document, before.lines)))
  return step.kind === 'return' && step.restocks ? move('returned', of(step.parts)) : []
}
