import { add, type Decimal, multiply, subtract, ZERO } from '../decimal/decimal'
import type { OrderDocument, OrderLine } from './order'
import type { LineStanding } from './standing'
import { creditOf } from './credit'

/** What became of the base price of a line on its way to what was paid: all amounts without tax, in the currency of the order. */
export interface LineRealisation {
  readonly line: OrderLine
  /** The quantity at base price; `null` where the item had none. */
  readonly base: Decimal | null
  /** What was agreed less, or more: by lists, by a contract, by a quote or by hand. */
  readonly agreed: { readonly by: 'list' | 'contract' | 'settled'; readonly amount: Decimal }
  /** What promotions took off, below zero. */
  readonly promoted: Decimal
  /** What was ordered, after both. */
  readonly net: Decimal
  /** Of what was cancelled or came back, below zero. */
  readonly credited: Decimal
  /** What was kept, and what that cost; `null` where the cost was not known. */
  readonly kept: Decimal
  readonly cost: Decimal | null
}

/**
 * Each line of an order from base price to what was paid.
 *
 * Holds   base + agreed + promoted + credited = kept wherever there is a base price.
 * Source  the price waterfall of M. Marn and R. Rosiello, “Managing Price, Gaining Profit”, Harvard Business Review (1992), as far
 *         as orders tell it (from memory).
 */
export function realisationOf(
  order: OrderDocument,
  lines: readonly LineStanding[],
): readonly LineRealisation[] {
  return order.lines.map((line, at): LineRealisation => {
    const { cancelled, returned } = lines[at] as LineStanding
    const gone = add(cancelled, returned)
    const credited = creditOf(line, ZERO, gone, order.digits).net
    const base = line.base === null ? null : multiply(line.base, line.quantity)
    return {
      ...{ line, base },
      agreed: { by: agreedBy(line), amount: base === null ? ZERO : subtract(line.before.net, base) },
      promoted: subtract(line.net, line.before.net),
      net: line.net,
      credited: subtract(ZERO, credited),
      kept: subtract(line.net, credited),
      cost: line.cost === null ? null : multiply(line.cost, subtract(line.quantity, gone)),
    }
  })
}

function agreedBy({ trace, contract }: OrderLine): LineRealisation['agreed']['by'] {
  if (trace.at(-1)?.kind === 'settled') return 'settled'
  return contract === null ? 'list' : 'contract'
}
