import type { LineStanding } from '@/core/order/standing'
import { standingOf } from '@/core/order/standing'
import { compare, type Decimal, ZERO } from '@/core/decimal/decimal'
import type { OrderDocument } from '@/core/order/order'
import type { OrderEvent } from '@/core/order/order-event'
import { formatAmount, formatMoney } from '@/ui/format/amount'
import { paymentWords } from '@/ui/format/order-phrases'
import { countryName } from '@/ui/format/place-names'
import { type MailWords, NO_LINES } from './mail-words'

interface MailedOrder {
  readonly number: number
  readonly document: OrderDocument
}

/** That an order was placed: to whom who bought it, or to the merchant. */
export function placedWords({ number, document }: MailedOrder, to: 'buyer' | 'merchant'): MailWords {
  const { buyer, address, payment, reference, placedBy } = document
  const place = [
    address.name,
    address.street,
    `${address.postcode} ${address.city}`.trim(),
    countryName(address.country),
  ]
    .filter(Boolean)
    .join(', ')
  const goesTo = `It goes to ${place}, and is paid ${paymentWords(payment)}.`
  const call = reference === '' ? '' : ` You call it ${reference}.`
  if (to === 'merchant')
    return {
      subject: `Order ${number} of ${buyer}`,
      preview: `${buyer} ordered for ${formatMoney(document.total.gross, document.currency, document.digits)}.`,
      title: `${buyer} has ordered`,
      paragraphs: [goesTo],
      ...contentOf(document),
      action: { label: 'Open the order', path: `/orders/${number}` },
    }
  return {
    subject: `Your order ${number}`,
    preview: `We have your order ${number}, and confirm it soon.`,
    title: 'Thank you for your order',
    paragraphs: [
      `${placedBy === null ? 'We have it' : `${placedBy} has placed it for you`} under number ${number}.${call}`,
      goesTo,
    ],
    ...contentOf(document),
    action: { label: 'See your order', path: `/shop/orders/${number}` },
  }
}

/** What became of an order by one step; `null` for a step nobody is told of. */
export function orderStepWords(
  { number, document }: MailedOrder,
  events: readonly OrderEvent[],
  at: number,
): MailWords | null {
  const event = events[at]
  if (!event) return null
  const { step } = event
  const action = { label: 'See your order', path: `/shop/orders/${number}` }
  const partsOf = (parts: readonly { readonly line: number; readonly quantity: Decimal }[]) =>
    parts.map(({ line, quantity }) => ({
      ...{ name: document.lines[line]?.name ?? '', quantity, price: '', total: '' },
    }))
  switch (step.kind) {
    case 'confirm':
      return {
        subject: `Order ${number} is confirmed`,
        preview: 'We have looked at it, and send it as ordered.',
        title: 'Your order is confirmed',
        paragraphs: [`We have looked at order ${number}, and send it as you ordered it.`],
        ...{ ...contentOf(document), action },
      }
    case 'send': {
      const open = standingOf(document, events.slice(0, at + 1)).lines
      return {
        subject: `Order ${number} is on its way`,
        preview: `Delivery note ${event.document}.`,
        title: isComplete(open) ? 'Your order is on its way' : 'A part of your order is on its way',
        paragraphs: [
          `We have sent what is listed here, with delivery note ${event.document}.`,
          ...(step.tracking === '' ? [] : [`Follow it under ${step.tracking}.`]),
          ...(isComplete(open) ? [] : ['The rest follows, and you hear from us when it does.']),
        ],
        ...{ ...NO_LINES, lines: partsOf(step.parts), action },
      }
    }
    case 'invoice':
      return {
        subject: `Invoice ${event.document} for order ${number}`,
        preview: `To pay ${formatMoney(standingOf(document, events.slice(0, at + 1)).due.gross, document.currency, document.digits)}.`,
        title: `Invoice ${event.document}`,
        paragraphs: [
          `The invoice for order ${number} is attached.`,
          `It comes to ${formatMoney(standingOf(document, events.slice(0, at + 1)).due.gross, document.currency, document.digits)}, paid ${paymentWords(document.payment)}.`,
        ],
        ...{ ...NO_LINES, action },
      }
    case 'cancel':
      return {
        subject: `Order ${number}: what was not sent is cancelled`,
        preview: step.reason,
        title: 'What was not sent yet is cancelled',
        paragraphs: [`Of order ${number} nothing more is sent.`],
        ...{ ...NO_LINES, quoted: step.reason, action },
      }
    case 'return':
      return {
        subject:
          event.document === null
            ? `Order ${number}: we took it back`
            : `Credit note ${event.document} for order ${number}`,
        preview: 'What you sent back has arrived.',
        title: 'What you sent back has arrived',
        paragraphs: [
          event.document === null
            ? 'It is not on an invoice yet, and will not be.'
            : `Credit note ${event.document} is attached: it gives back what was paid for it.`,
        ],
        ...{ ...NO_LINES, quoted: step.reason, lines: partsOf(step.parts), action },
      }
    case 'close':
    case 'note':
      return null
  }
}

function isComplete(lines: readonly LineStanding[]): boolean {
  return lines.every(({ open }) => compare(open, ZERO) <= 0)
}

/** The lines and sums of an order, as its buyer saw prices. */
export function contentOf(document: OrderDocument): Pick<MailWords, 'quoted' | 'lines' | 'sums'> {
  const { currency, digits, display, goods, delivery, paymentCharge, taxes, total } = document
  const shows = display === 'gross' ? 'gross' : 'net'
  const money = (amount: Decimal) => formatMoney(amount, currency, digits)
  const taxRows = taxes.map(
    ({ name, percent, amount }) =>
      [`${shows === 'gross' ? 'includes ' : ''}${name} ${percent} %`, money(amount)] as const,
  )
  return {
    quoted: '',
    lines: document.lines.map((line) => ({
      name: [line.name, ...line.extras.map(({ name }) => `with ${name}`)].join(', '),
      quantity: line.quantity,
      price: line.isGift ? '' : formatAmount(line.unit[shows], digits),
      total: line.isGift ? 'free' : formatAmount(line[shows], digits),
    })),
    sums: [
      [shows === 'net' ? 'Goods, without tax' : 'Goods', money(goods[shows])],
      ['Delivery', money(delivery[shows])],
      ...(paymentCharge.gross === ZERO
        ? []
        : [['For the way of paying', money(paymentCharge[shows])] as const]),
      ...taxRows,
      ['Total', money(total.gross)],
    ],
  }
}
