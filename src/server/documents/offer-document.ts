import 'server-only'

import { differencePercent } from '@/core/decimal/difference-percent'
import type { Offer, OfferLine } from '@/core/quote/quote'
import type { Settings } from '@/core/store/store'
import type { TableCell } from 'pdfmake/interfaces'
import type { Quote } from '../quotes/quote-rows'
import { headOf, type PaperWords, right, soft, STRUCK, sumsOf, table } from './paper-parts'
import { makePdf } from './pdf'

/** An offer as a buyer files it: what was offered for what was asked, and until when. */
export function offerPaper(
  quote: Quote,
  {
    offer,
    at,
    showsTheirs,
  }: { readonly offer: Offer; readonly at: number; readonly showsTheirs: (line: OfferLine) => boolean },
  { settings, words }: { readonly settings: Settings; readonly words: PaperWords },
): Promise<Uint8Array> {
  const { request, number } = quote
  const { basis } = request
  const own = offer.lines.filter(({ insteadOf }) => insteadOf === null)
  const instead = offer.lines.filter(({ insteadOf }) => insteadOf !== null)
  const row = (line: OfferLine): TableCell[] => {
    const isLower = line.their !== null && line.their !== line.price && showsTheirs(line)
    const percent = isLower && line.their ? differencePercent(line.price, line.their) : null
    return [
      { text: line.sku },
      {
        stack: [
          line.name,
          ...(line.extras.length > 0 ? [soft(`with ${line.extras.map(({ name }) => name).join(', ')}`)] : []),
          ...(line.note === '' ? [] : [soft(line.note)]),
        ],
      },
      right(line.quantity),
      isLower && line.their
        ? {
            stack: [
              { ...right(words.price(line.their)), ...STRUCK },
              right(words.price(line.price)),
              ...(percent === null ? [] : [{ ...soft(`${percent} %`), alignment: 'right' as const }]),
            ],
          }
        : right(words.price(line.price)),
      right(words.amount(line[basis])),
    ]
  }
  const titles = ['SKU', 'Item', 'Quantity', 'Offered each', 'Line total']
  const widths = [64, '*', 48, 68, 68]
  return makePdf(
    headOf({ settings, words }, offer.document, `Offer Q-${number}`, [
      ['Quote', `Q-${number}`],
      ['Date', words.day(at)],
      ['Valid until', words.day(Date.parse(offer.until))],
      ['Payment', words.payment(offer.terms === '' ? 'card' : offer.terms)],
      ...(offer.delivery === '' ? [] : [['Delivery', offer.delivery] as const]),
    ]),
    [
      table(titles, widths, own.map(row)),
      soft(
        `Prices in ${request.currency}, ${basis === 'gross' ? 'with tax' : 'without tax'}, except where the name of the sum says otherwise.`,
      ),
      ...(instead.length > 0
        ? [
            { text: 'Or instead', bold: true, margin: [0, 12, 0, 4] as [number, number, number, number] },
            table(
              titles,
              widths,
              instead.map((line) => {
                const [sku, , ...rest] = row(line)
                const other = offer.lines[line.insteadOf ?? 0]?.name ?? ''
                return [sku as TableCell, { stack: [line.name, soft(`instead of ${other}`)] }, ...rest]
              }),
            ),
          ]
        : []),
      sumsOf(offer.document, words),
    ],
  )
}
