import 'server-only'

import { cellText, type SheetCell, writeSheet } from '@/server/imports/write-sheet'
import { writeTable } from '@/server/imports/write-table'
import type { ListedPrices } from './make-price-list'

/** Forms of a price list that programs and spreadsheets read. */
export const LIST_FORMATS = ['csv', 'xlsx', 'json'] as const
export type ListFormat = (typeof LIST_FORMATS)[number]

/** As a CSV file (RFC 4180), a row a price, amounts with a point. */
export function priceListTable(list: ListedPrices): string {
  return writeTable(
    headerOf(list),
    rowsOf(list).map((row) => row.map(cellText)),
  )
}

/** As an XLSX file, whose prices are numbers. */
export function priceListSheet(list: ListedPrices): Promise<Uint8Array<ArrayBuffer>> {
  return writeSheet(headerOf(list), rowsOf(list))
}

/** How many rows it has: a row a price. */
export function rowCountOf({ items }: ListedPrices): number {
  return items.reduce((sum, { prices }) => sum + prices.length, 0)
}

/** As JSON: see docs/formats.md. */
export function priceListJson({ buyer, on, currency, shows, branch, items }: ListedPrices): string {
  return JSON.stringify({
    ...{ format: 'steppe-price-list', version: 1 },
    ...{ buyer, at: new Date(on).toISOString(), currency, basis: shows, category: branch?.code ?? null },
    items,
  })
}

function headerOf({ currency, shows }: ListedPrices): readonly string[] {
  const price = `Price ${currency} ${shows === 'net' ? 'without tax' : 'with tax'}`
  return ['SKU', 'GTIN', 'Item', 'Category', 'From quantity', price, `Per unit ${currency}`, 'Unit']
}

function rowsOf({ items, digits, minorDigits }: ListedPrices): readonly (readonly SheetCell[])[] {
  return items.flatMap(({ sku, gtin, name, category, prices, perUnit }) =>
    prices.map(({ from, price }, at): readonly SheetCell[] => [
      ...[sku, gtin, name, category],
      { amount: from, digits: 0 },
      { amount: price, digits },
      at === 0 && perUnit ? { amount: perUnit.amount, digits: minorDigits } : null,
      at === 0 && perUnit ? perUnit.per : null,
    ]),
  )
}
