import type { OrderEvent, OrderState } from '@/core/order/order-event'

/** How an order stands, in a word or two. */
export const ORDER_STATE_WORDS: Readonly<Record<OrderState, string>> = {
  placed: 'Placed',
  confirmed: 'Confirmed',
  'sent-in-part': 'Sent in part',
  sent: 'Sent',
  invoiced: 'Invoiced',
  closed: 'Closed',
  cancelled: 'Cancelled',
}

/** How it was, or is to be, paid. */
export function paymentWords(payment: string): string {
  return payment === 'card' ? 'by card' : `on account, ${payment}`
}

const PAPERS: Readonly<
  Partial<Record<OrderEvent['step']['kind'], { readonly name: string; readonly query: string }>>
> = {
  send: { name: 'Delivery note', query: 'delivery-note' },
  invoice: { name: 'Invoice', query: 'invoice' },
  return: { name: 'Credit note', query: 'credit-note' },
}

/** The documents there are of an order: what each is called, and what its address asks for. */
export function papersOf(
  events: readonly Pick<OrderEvent, 'step' | 'document'>[],
): readonly (readonly [name: string, query: string])[] {
  return [
    ['Order confirmation', 'paper=confirmation'],
    ...events.flatMap(({ step, document }) => {
      const paper = PAPERS[step.kind]
      return paper && document !== null
        ? [[`${paper.name} ${document}`, `paper=${paper.query}&number=${document}`] as const]
        : []
    }),
  ]
}
