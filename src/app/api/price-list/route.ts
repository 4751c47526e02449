import { gatherPrices, makePriceList, MOST_ITEMS } from '@/features/documents/make-price-list'
import {
  LIST_FORMATS,
  type ListFormat,
  priceListJson,
  priceListSheet,
  priceListTable,
  rowCountOf,
} from '@/features/documents/price-list-files'
import { sendFile } from '@/features/documents/send-paper'
import { refuse } from '@/server/doors/with-store'
import { lookFrom } from '@/server/engine/look-from'
import { MOST_SHEET_ROWS, XLSX_TYPE } from '@/server/imports/write-sheet'
import { merchantRoute } from '@/server/session/permit'
import { parseVantage } from '@/ui/frame/vantage-url'
import type { NextRequest } from 'next/server'

/** Beyond so many a program reads the store document and asks for prices. */
const MOST_LISTED = 250_000

const SENTENCES = {
  'unknown-category': 'There is no such category.',
  'too-many': `A price list holds at most ${MOST_ITEMS} items as PDF, ${MOST_LISTED} otherwise: choose a branch with in=, or format=csv.`,
  nothing: 'Whoever is looked as is shown no price there.',
} as const

const TYPES: Readonly<Record<ListFormat, string>> = {
  csv: 'text/csv; charset=utf-8',
  xlsx: XLSX_TYPE,
  json: 'application/json',
}

/**
 * What a buyer pays, from any vantage: `?as=account:fennmoor&in=jars`. A PDF file to send them, or with `format=` the same as CSV, XLSX
 * or JSON.
 */
export const GET = merchantRoute('prices:look', async (request: NextRequest) => {
  const fields = request.nextUrl.searchParams
  const wanted = fields.get('format') ?? 'pdf'
  const format = LIST_FORMATS.find((each) => each === wanted)
  if (!format && wanted !== 'pdf')
    return refuse(400, 'unknown-format', `format is pdf, ${LIST_FORMATS.join(', ')}.`)
  const look = await lookFrom(parseVantage(fields))
  const no = (code: keyof typeof SENTENCES) =>
    refuse(code === 'unknown-category' ? 404 : 409, code, SENTENCES[code])
  if (!format) {
    const made = await makePriceList(look, fields.get('in'))
    return made.ok ? sendFile(made.paper, 'application/pdf') : no(made.code)
  }
  const gathered = await gatherPrices(look, fields.get('in'), MOST_LISTED)
  if (!gathered.ok) return no(gathered.code)
  const { list } = gathered
  if (format === 'xlsx' && rowCountOf(list) > MOST_SHEET_ROWS)
    return refuse(
      422,
      'too-many-rows',
      `A spreadsheet is made of at most ${MOST_SHEET_ROWS} rows: take CSV instead.`,
    )
  const body =
    format === 'csv'
      ? priceListTable(list)
      : format === 'json'
        ? priceListJson(list)
        : await priceListSheet(list)
  return new Response(body, {
    headers: {
      'content-type': TYPES[format],
      'content-disposition': `attachment; filename="price-list-${list.branch?.code ?? 'all'}.${format}"`,
      'cache-control': 'private, no-store',
    },
  })
})
