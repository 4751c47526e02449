import 'server-only'

import { multiply, sum, ZERO } from '@/core/decimal/decimal'
import { toFraction } from '@/core/decimal/fraction'
import { roundToDigits } from '@/core/decimal/rounding'
import { lastDays, readTerms } from '@/core/order/due-date'
import { creditNoteOf, type Invoice, invoiceOf } from '@/core/order/invoice'
import type { OrderDocument, OrderLine } from '@/core/order/order'
import type { OrderEvent } from '@/core/order/order-event'
import { standingOf } from '@/core/order/standing'
import type { Settings } from '@/core/store/store'
import type { Content, TableCell } from 'pdfmake/interfaces'
import type { Order } from '../orders/order-rows'
import { headOf, type PaperWords, right, soft, STRUCK, sumsOf, sumTable, table } from './paper-parts'
import { makePdf, type PdfHead } from './pdf'

interface Paper {
  readonly order: Order
  readonly settings: Settings
  readonly words: PaperWords
}

/** What was ordered, at which price: what a buyer checks before anything is sent. */
export function confirmation({ order, settings, words }: Paper): Promise<Uint8Array> {
  const { document, number } = order
  const shows = document.display === 'gross' ? 'gross' : 'net'
  const body = document.lines.map((line): TableCell[] => [
    { text: line.sku },
    {
      stack: [
        line.name,
        ...(line.extras.length > 0 ? [soft(`with ${line.extras.map(({ name }) => name).join(', ')}`)] : []),
        ...(line.promotions.length > 0 ? [soft(line.promotions.join(', '))] : []),
      ],
    },
    right(line.quantity),
    right(words.amount(line.unit[shows])),
    line.isGift
      ? right('free')
      : line.before[shows] === line[shows]
        ? right(words.amount(line[shows]))
        : {
            stack: [
              { ...right(words.amount(line.before[shows])), ...STRUCK },
              right(words.amount(line[shows])),
            ],
          },
  ])
  return makePdf(
    headOf({ settings, words }, document, `Order confirmation ${number}`, [
      ['Order', String(number)],
      ['Ordered on', words.day(order.at.getTime())],
      ...(document.reference === '' ? [] : [['Your reference', document.reference] as const]),
      ['Payment', words.payment(document.payment)],
    ]),
    [
      table(['SKU', 'Item', 'Quantity', 'Unit price', 'Line total'], [64, '*', 48, 60, 64], body),
      soft(
        `Amounts in ${document.currency}, ${shows === 'gross' ? 'with tax' : 'without tax'}, except where the name of the sum says otherwise.`,
      ),
      sumsOf(document, words),
      ...(document.untaxed === 'reverse-charge'
        ? [{ text: 'Reverse charge: the buyer accounts for the tax.', margin: [0, 8, 0, 0] } as Content]
        : []),
    ],
  )
}

/** What is in a parcel: quantities, and what follows later. No price is on it. */
export function deliveryNote(paper: Paper, document: number): Promise<Uint8Array> | null {
  const { order, words } = paper
  const place = order.events.findIndex((event) => event.step.kind === 'send' && event.document === document)
  const event = order.events[place] as OrderEvent | undefined
  if (event?.step.kind !== 'send') return null
  const { step } = event
  const after = standingOf(order.document, order.events.slice(0, place + 1))
  const body = order.document.lines.flatMap((line, at): TableCell[][] => {
    const sent = sum(step.parts.filter((part) => part.line === at).map(({ quantity }) => quantity))
    const open = after.lines[at]?.open ?? ZERO
    if (sent === ZERO && open === ZERO) return []
    return [
      [
        { text: line.sku },
        {
          text: [
            line.name,
            line.extras.length > 0 ? ` with ${line.extras.map(({ name }) => name).join(', ')}` : '',
          ].join(''),
        },
        right(line.quantity),
        { ...right(sent), bold: true },
        right(open === ZERO ? '–' : open),
      ],
    ]
  })
  return makePdf(
    headOf(paper, order.document, `Delivery note ${document}`, [
      ['Delivery note', String(document)],
      ['Sent on', words.day(event.at)],
      ['Order', `${order.number} of ${words.day(order.at.getTime())}`],
      ...(order.document.reference === '' ? [] : [['Your reference', order.document.reference] as const]),
      ...(step.tracking === '' ? [] : [['Tracking', step.tracking] as const]),
    ]),
    [
      ...(order.document.slipNote === ''
        ? []
        : [{ text: order.document.slipNote, bold: true, margin: [0, 0, 0, 8] } as Content]),
      table(['SKU', 'Item', 'Ordered', 'In this delivery', 'To follow'], [64, '*', 48, 84, 56], body),
    ],
  )
}

/** What is to be paid for what was sent, until when. */
export function invoicePaper(paper: Paper, number: number): Promise<Uint8Array> | null {
  const { order, words } = paper
  const invoice = invoiceOf(order.document, order.events, number)
  return (
    invoice && invoicing(paper, invoice, `Invoice ${number}`, dueFacts(order.document, invoice.at, words))
  )
}

/** What is given back for what came back. */
export function creditNotePaper(paper: Paper, number: number): Promise<Uint8Array> | null {
  const { order } = paper
  const note = creditNoteOf(order.document, order.events, number)
  if (!note) return null
  const invoice = standingOf(order.document, order.events).invoice
  return invoicing(paper, note, `Credit note ${number}`, [
    ...(invoice === null ? [] : [['To invoice', String(invoice)] as const]),
    ['Reason', note.reason],
  ])
}

function dueFacts({ payment }: OrderDocument, at: number, words: PaperWords): PdfHead['facts'] {
  const terms = readTerms(payment)
  if (!terms) return [['Payment', words.payment(payment)]]
  const { due, discounted } = lastDays(terms, words.isoDay(at))
  return [
    ['Payment', words.payment(payment)],
    ...(due === null ? [] : [['Due on', words.day(Date.parse(due))] as const]),
    ...(discounted === null || !terms.discount
      ? []
      : [[`Less ${terms.discount.percent} % until`, words.day(Date.parse(discounted))] as const]),
  ]
}

function invoicing(
  paper: Paper,
  invoice: Invoice,
  title: string,
  facts: PdfHead['facts'],
): Promise<Uint8Array> {
  const { order, words } = paper
  const { document } = order
  const { lines, delivery, paymentCharge, taxes, total } = invoice
  const body = lines.map(({ line, quantity, amount }): TableCell[] => {
    const of = document.lines[line] as OrderLine
    const extras = of.extras.length > 0 ? ` with ${of.extras.map(({ name }) => name).join(', ')}` : ''
    return [
      { text: of.sku },
      { text: `${of.name}${extras}` },
      right(quantity),
      right(unitOf(of)),
      right(words.amount(amount.net)),
    ]
  })
  // Where promotions took something off, or tax was rounded out of it, what one came to is told by the line alone.
  function unitOf({ unit, quantity, net, promotions, isGift }: OrderLine): string {
    const whole = roundToDigits(toFraction(multiply(unit.net, quantity)), document.digits, 'half-up')
    return promotions.length > 0 || isGift || whole !== net ? '–' : words.price(unit.net)
  }
  const sums: (readonly [string, string])[] = [
    ['Lines, without tax', words.amount(sum(lines.map(({ amount }) => amount.net)))],
    ...(delivery.net === ZERO ? [] : [['Delivery, without tax', words.amount(delivery.net)] as const]),
    ...(paymentCharge.net === ZERO
      ? []
      : [['For the way of paying, without tax', words.amount(paymentCharge.net)] as const]),
    ['Total without tax', words.amount(total.net)],
    ...taxes.map(
      ({ name, percent, on, amount }) =>
        [
          `${name} ${percent} %${on === null ? '' : ` on ${words.amount(on)}`}`,
          words.amount(amount),
        ] as const,
    ),
  ]
  return makePdf(
    headOf(paper, document, title, [
      [title.replace(/ \d+$/, ''), String(invoice.number)],
      ['Date', words.day(invoice.at)],
      ['Order', `${order.number} of ${words.day(order.at.getTime())}`],
      ...(document.reference === '' ? [] : [['Your reference', document.reference] as const]),
      ...facts,
    ]),
    [
      table(['SKU', 'Item', 'Quantity', 'Each, without tax', 'Without tax'], [64, '*', 48, 84, 72], body),
      sumTable(sums, words.money(total.gross)),
      ...(document.untaxed === 'reverse-charge'
        ? [{ text: 'Reverse charge: the buyer accounts for the tax.', margin: [0, 8, 0, 0] } as Content]
        : []),
    ],
  )
}
