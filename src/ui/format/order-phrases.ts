import type { OrderState } from '@/core/order/order-event'

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
