import 'server-only'

import { type Decimal } from '@/core/decimal/decimal'
import { QUANTITY_UNITS } from '@/core/engine/lists/compiled-line'
import { toPrice } from '@/core/engine/lists/price-step'
import type { ClassImpact } from '@/core/impact/class-impact'
import { isBelow, marginOf, movePercent } from '@/core/impact/summary'
import type { Store } from '@/core/store/store'
import { cellText, MOST_SHEET_ROWS, type SheetCell, writeSheet } from '@/server/imports/write-sheet'
import { writeTable } from '@/server/imports/write-table'
import { nameOfClass } from './class-names'

/** Every price that moves between two states of a store, whose names are told. */
interface MovedPrices {
  readonly impacts: readonly ClassImpact[]
  readonly before: Store
  readonly after: Store
  readonly names: readonly [before: string, after: string]
}

/** As a CSV file (RFC 4180). */
export function impactTable(moved: MovedPrices): string {
  return writeTable(
    headerOf(moved.names),
    rowsOf(moved).map((row) => row.map(cellText)),
  )
}

/**
 * As an XLSX file.
 *
 * Errors  `null` where there are more rows than a spreadsheet is made of here.
 */
export async function impactSheet(moved: MovedPrices): Promise<Uint8Array<ArrayBuffer> | null> {
  const rows = rowsOf(moved)
  return rows.length > MOST_SHEET_ROWS ? null : writeSheet(headerOf(moved.names), rows)
}

function headerOf([before, after]: MovedPrices['names']): readonly string[] {
  return [
    'Buyers',
    'Currency',
    'SKU',
    'From quantity',
    `${before} price`,
    `${after} price`,
    'Change %',
    `${before} margin %`,
    `${after} margin %`,
    'Cost',
    'Below cost',
    'Above public price',
  ]
}

function rowsOf({ impacts, before, after }: MovedPrices): readonly (readonly SheetCell[])[] {
  return impacts.flatMap(({ of, prices, digits, currency }) => {
    const { name } = nameOfClass(of, after, before)
    const price = (units: number) => cell(toPrice(Math.round(units), digits), digits)
    return prices.map((moved) => [
      name,
      currency.after ?? currency.before ?? '',
      (after.variant.get(moved.variant) ?? before.variant.get(moved.variant))?.sku ?? moved.variant,
      cell(String(moved.quantity / QUANTITY_UNITS) as Decimal, 0),
      price(moved.before),
      price(moved.after),
      cell(movePercent(moved), 1),
      cell(marginOf(moved.before, moved.costBefore), 1),
      cell(marginOf(moved.after, moved.costAfter), 1),
      price(moved.costAfter),
      isBelow(moved.after, moved.costAfter) ? 'yes' : '',
      moved.isAbovePublic ? 'yes' : '',
    ])
  })
}

function cell(amount: Decimal | null, digits: number): SheetCell {
  return amount === null ? null : { amount, digits }
}
