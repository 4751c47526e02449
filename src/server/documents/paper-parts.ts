import 'server-only'

import { compare, subtract, sum, ZERO } from '@/core/decimal/decimal'
import type { OrderDocument } from '@/core/order/order'
import type { Settings } from '@/core/store/store'
import type { Content, TableCell } from 'pdfmake/interfaces'
import type { PdfHead } from './pdf'

/** How a document writes days, amounts and countries: as the screens do. */
export interface PaperWords {
  readonly day: (at: number) => string
  /** `YYYY-MM-DD` where the store is. */
  readonly isoDay: (at: number) => string
  readonly amount: (amount: string) => string
  /** Of one piece, which may have more digits than can be paid. */
  readonly price: (amount: string) => string
  readonly money: (amount: string) => string
  readonly country: (code: string) => string
  readonly payment: (payment: string) => string
}

/** Whom a document goes to. */
export type Addressed = Pick<OrderDocument, 'buyer' | 'address' | 'taxNumber'>

/** The head of a document to a buyer: from whom, to whom, and what it is of. */
export function headOf(
  { settings, words }: { readonly settings: Settings; readonly words: PaperWords },
  { buyer, address, taxNumber }: Addressed,
  title: string,
  facts: PdfHead['facts'],
): PdfHead {
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
      ...new Set([buyer, address.name]),
      address.street,
      [address.postcode, address.city].filter(Boolean).join(' '),
      [address.state, words.country(address.country)].filter(Boolean).join(', '),
      taxNumber === '' ? '' : `VAT number ${taxNumber}`,
    ].filter((line) => line !== ''),
    facts,
  }
}

export function sumsOf(document: OrderDocument, { amount, money }: PaperWords): Content {
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

export function sumTable(rows: readonly (readonly [string, string])[], total: string): Content {
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
export const STRUCK = { decoration: 'lineThrough' as const, color: SOFT, fontSize: 8 }

export function right(text: string) {
  return { text, alignment: 'right' as const }
}

export function soft(text: string): {
  readonly text: string
  readonly color: string
  readonly fontSize: number
} {
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

export function table(
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
