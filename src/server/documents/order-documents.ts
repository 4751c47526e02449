import 'server-only'

import { compare, subtract, sum, ZERO } from '@/core/decimal/decimal'
import { lastDays, readTerms } from '@/core/order/due-date'
import { creditNoteOf, type Invoice, invoiceOf } from '@/core/order/invoice'
import type { OrderDocument, OrderLine } from '@/core/order/order'
import type { OrderEvent } from '@/core/order/order-event'
import { standingOf } from '@/core/order/standing'
import type { Settings } from '@/core/store/store'
import type { Content, TableCell } from 'pdfmake/interfaces'
import type { Order } from '../orders/order-rows'
import { makePdf, type PdfHead } from './pdf'

/** How a document writes days, amounts and countries: as the screens do. */
export interface PaperWords {
  readonly day: (at: number) => string
  /** `YYYY-MM-DD` where the store is. */
  readonly isoDay: (at: number) => string
  readonly amount: (amount: string) => string
  readonly money: (amount: string) => string
  readonly country: (code: string) => string
  readonly payment: (payment: string) => string
}

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
    headOf({ order, settings, words }, `Order confirmation ${number}`, [
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
    headOf(paper, `Delivery note ${document}`, [
      ['Delivery note', String(document)],
      ['Sent on', words.day(event.at)],
      ['Order', `${order.number} of ${words.day(order.at.getTime())}`],
      ...(order.document.reference === '' ? [] : [['Your reference', order.document.reference] as const]),
      ...(step.tracking === '' ? [] : [['Tracking', step.tracking] as const]),
    ]),
    [table(['SKU', 'Item', 'Ordered', 'In this delivery', 'To follow'], [64, '*', 48, 84, 56], body)],
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
      right(words.amount(amount.net)),
    ]
  })
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
    headOf(paper, title, [
      [title.replace(/ \d+$/, ''), String(invoice.number)],
      ['Date', words.day(invoice.at)],
      ['Order', `${order.number} of ${words.day(order.at.getTime())}`],
      ...(document.reference === '' ? [] : [['Your reference', document.reference] as const]),
      ...facts,
    ]),
    [
      table(['SKU', 'Item', 'Quantity', 'Without tax'], [64, '*', 60, 80], body),
      sumTable(sums, words.money(total.gross)),
      ...(document.untaxed === 'reverse-charge'
        ? [{ text: 'Reverse charge: the buyer accounts for the tax.', margin: [0, 8, 0, 0] } as Content]
        : []),
    ],
  )
}

function headOf({ order, settings, words }: Paper, title: string, facts: PdfHead['facts']): PdfHead {
  const { address } = order.document
  const registration = settings.taxRegistrations[settings.country]
  return {
    title,
    from: [
      settings.name,
      ...[settings.shopContact, registration ? `VAT number ${registration}` : ''].filter(
        (line) => line !== '',
      ),
    ],
    to: [
      ...new Set([order.document.buyer, address.name]),
      address.street,
      [address.postcode, address.city].filter(Boolean).join(' '),
      [address.state, words.country(address.country)].filter(Boolean).join(', '),
    ].filter((line) => line !== ''),
    facts,
  }
}

function sumsOf(document: OrderDocument, { amount, money }: PaperWords): Content {
  const { goods, delivery, paymentCharge, taxes, total, lines } = document
  const saved = subtract(sum(lines.map(({ before }) => before.net)), goods.net)
  const rows: (readonly [string, string])[] = [
    ...(compare(saved, ZERO) > 0 ? [['Saved by promotions, without tax', amount(saved)] as const] : []),
    ['Goods, without tax', amount(goods.net)],
    ['Delivery, without tax', amount(delivery.net)],
    ...(paymentCharge.gross === ZERO
      ? []
      : [['For the way of paying, without tax', amount(paymentCharge.net)] as const]),
    ...taxes.map((tax) => [`${tax.name} ${tax.percent} % on ${amount(tax.on)}`, amount(tax.amount)] as const),
  ]
  return sumTable(rows, money(total.gross))
}

function sumTable(rows: readonly (readonly [string, string])[], total: string): Content {
  return {
    margin: [0, 10, 0, 0],
    // Stays together: a sum without its total says nothing.
    unbreakable: true,
    columns: [
      { text: '', width: '*' },
      {
        width: 260,
        table: {
          widths: ['*', 'auto'],
          body: [
            ...rows.map(([name, value]): TableCell[] => [{ text: name }, right(value)]),
            [
              { text: 'Total', bold: true },
              { ...right(total), bold: true },
            ],
          ],
        },
        layout: LINES,
      },
    ],
  }
}

const SOFT = '#766d58'
const STRUCK = { decoration: 'lineThrough' as const, color: SOFT, fontSize: 8 }

function right(text: string) {
  return { text, alignment: 'right' as const }
}

function soft(text: string): { readonly text: string; readonly color: string; readonly fontSize: number } {
  return { text, color: SOFT, fontSize: 8 }
}

/** Thin lines between rows, a strong one under the head. */
const LINES = {
  hLineWidth: (at: number) => (at === 0 ? 0 : 0.5),
  vLineWidth: () => 0,
  hLineColor: () => '#e2d9c3',
  paddingLeft: () => 0,
  paddingRight: () => 8,
  paddingTop: () => 4,
  paddingBottom: () => 3,
}

function table(
  titles: readonly string[],
  widths: (number | string)[],
  body: readonly TableCell[][],
): Content {
  const head = titles.map((text, at): TableCell => ({
    text,
    color: SOFT,
    alignment: at < 2 ? 'left' : 'right',
  }))
  return {
    // The head stands on every page, and no line is cut in two.
    table: { headerRows: 1, dontBreakRows: true, widths, body: [head, ...body] },
    layout: LINES,
    margin: [0, 0, 0, 6],
  }
}
