import 'server-only'

import { writeTable } from '@/server/imports/write-table'
import type { ReportView } from './report-view'

/** A report as a CSV file, as it is shown: a row for each of its rows. */
export function exportReport(view: ReportView): { readonly name: string; readonly content: string } {
  const { shown } = view
  const name = `${shown.report}-${shown.since}-${shown.until}.csv`
  return { name, content: tableOf(view) }
}

function tableOf({ shown, realisation, sales, quotes, reasons, buyers }: ReportView): string {
  const { currency } = shown
  switch (shown.report) {
    case 'realisation':
      return writeTable(
        ['step', `amount ${currency} without tax`, 'percent of base'],
        realisation.map(({ name, amount, percent }) => [name, amount, percent ?? '']),
      )
    case 'sales':
      return writeTable(
        [shown.by, 'orders', `sales ${currency} without tax`, `cost ${currency}`, 'margin percent'],
        sales.map(({ name, orders, net, cost, margin }) => [
          ...[name, String(orders), net, cost ?? '', margin ?? ''],
        ]),
      )
    case 'quotes':
      return writeTable(
        ['what', 'name', 'quotes', `value ${currency} with tax`, 'won', 'lost', 'won percent'],
        [
          ...quotes.map(({ name, count, value }) => ['state', name, String(count), value, '', '', '']),
          ...reasons.map(({ name, count, value }) => ['reason', name, String(count), value, '', '', '']),
          ...buyers.map(({ name, asked, won, lost, rate }) => [
            ...['buyer', name, String(asked), '', String(won), String(lost), rate ?? ''],
          ]),
        ],
      )
  }
}
