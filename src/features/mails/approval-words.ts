import type { OrderRequest } from '@/server/shop/order-requests'
import { formatMoney } from '@/ui/format/amount'
import { type MailWords, NO_LINES } from './mail-words'

/** That an order waits for somebody of the account, or what became of it. */
export function approvalWords(
  { id, name, wanted, decidedBy, reason, order }: OrderRequest,
  said: 'asked' | 'ordered' | 'turned-down',
): MailWords {
  const total = formatMoney(wanted.total, wanted.currency, 2)
  const path = `/shop/account/requests/${id}`
  switch (said) {
    case 'asked':
      return {
        subject: `${name} wants to order for ${total}`,
        preview: 'It is more than they order alone.',
        title: 'An order waits for you',
        paragraphs: [`${name} wants to order for ${total}, which is more than they order alone.`],
        ...{ ...NO_LINES, action: { label: 'Look at it and decide', path } },
      }
    case 'ordered':
      return {
        subject: `Your order was let through: ${order}`,
        preview: `${decidedBy} has ordered it.`,
        title: 'Your order was let through',
        paragraphs: [`${decidedBy} has looked at it and ordered. It is order ${order}.`],
        ...{ ...NO_LINES, action: { label: 'See the order', path: `/shop/orders/${order}` } },
      }
    case 'turned-down':
      return {
        subject: 'Your order was turned down',
        preview: reason,
        title: 'Your order was turned down',
        paragraphs: [`${decidedBy} has turned it down:`],
        ...{ ...NO_LINES, quoted: reason, action: { label: 'See what it was', path } },
      }
  }
}
