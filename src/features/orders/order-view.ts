import type { Decimal } from '@/core/decimal/decimal'
import type { OrderDocument, OrderLine } from '@/core/order/order'
import type { OrderEvent } from '@/core/order/order-event'
import type { TraceStepView } from '@/ui/trace/trace-steps'

/** A line of an order, with what it would cost now beside what it cost then. */
export interface OrderLineView {
  readonly line: OrderLine
  readonly productHref: string | null
  /** Of the whole line after promotions, of the net; `null` without a cost. */
  readonly margin: Decimal | null
  /** What one piece would cost this buyer now, before promotions, as the order shows prices; `null` where it could not be bought. */
  readonly today: Decimal | null
  /** On the shelf now; `null` where it is not counted. */
  readonly onHand: Decimal | null
  /** How the price came about then. */
  readonly steps: readonly TraceStepView[]
}

export interface OrderView {
  readonly number: number
  readonly when: string
  readonly buyerHref: string | null
  readonly document: OrderDocument
  readonly events: readonly (OrderEvent & { readonly when: string })[]
  readonly lines: readonly OrderLineView[]
  /** Of all goods, of their net; `null` where a cost is missing. */
  readonly margin: Decimal | null
  /** Why nothing can be compared with today; empty where it can. */
  readonly notToday: string
}
