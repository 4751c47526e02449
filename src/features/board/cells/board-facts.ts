import { type Decimal, toFixed } from '@/core/decimal/decimal'
import { toFraction } from '@/core/decimal/fraction'
import { roundToDigits } from '@/core/decimal/rounding'
import { marginPercent } from '@/core/price/margin'
import { formatAmount, formatPercent } from '@/ui/format/amount'
import type { GridRange } from '@/ui/grid/grid-range'
import { BASE_COLUMN, FIXED_COLUMNS } from '../columns/board-columns'
import type { FoundRow } from '../edits/board-edits'
import { firstAmount, isCellBelowCost, isPrice, type Measure, measureText } from './board-measures'
import type { BoardView } from '../board-view'
import { rangeFigures, type RangePrice } from '../edits/range-figures'

/** A cell as a spreadsheet takes it: SKUs, names and words as they stand, amounts plain. */
export function copiedText(
  view: BoardView,
  measure: Measure,
  { place, product, variant }: FoundRow,
  column: number,
): string {
  if (!place || !product) return ''
  if (column === 0) return variant?.sku ?? product.name
  const plain = (amount: Decimal | null | undefined, digits: number) =>
    amount ? toFixed(amount, digits) : ''
  if (!variant) return column === BASE_COLUMN ? plain(product.base, view.digits) : ''
  if (column < FIXED_COLUMNS) return plain(column === BASE_COLUMN ? variant.base : variant.cost, view.digits)
  const at = column - FIXED_COLUMNS
  const cell = variant.cells[at]
  if (!cell) return ''
  const digits = view.columns[at]?.digits ?? view.digits
  if (isPrice(measure) && cell.amount && !cell.hidden)
    return plain((measure === 'promoted' ? cell.promoted?.amount : null) ?? cell.amount, digits)
  return measureText(measure, cell, digits, view.listNames, firstAmount(view.columns, variant, at))
}

/** What is said below the board of the cell somebody stands on. */
export function cellFacts(view: BoardView, { variant }: FoundRow, column: number): readonly string[] {
  if (!variant) return []
  const cell = variant.cells[column - FIXED_COLUMNS]
  const digits = view.columns[column - FIXED_COLUMNS]?.digits ?? view.digits
  const margin = cell?.compared && cell.cost !== null ? marginPercent(cell.compared, cell.cost) : null
  return [
    variant.sku,
    ...(cell?.amount ? [`price ${formatAmount(cell.amount, digits)}`] : []),
    ...(cell?.list ? [`from ${view.listNames[cell.list] ?? cell.list}`] : []),
    ...(cell?.promoted ? [`${formatAmount(cell.promoted.amount, digits)} with ${cell.promoted.by}`] : []),
    ...(margin ? [`margin ${formatPercent(margin)}`] : []),
    ...(cell && isCellBelowCost(cell) ? ['below cost'] : []),
  ]
}

/** What is said below the board of a chosen range. */
export function rangeFacts(
  view: BoardView,
  { top, bottom, left, right }: GridRange,
  rowAt: (row: number) => FoundRow,
): readonly string[] {
  const prices: RangePrice[] = []
  let reading = 0
  for (let row = top; row <= bottom; row += 1) {
    const { product, variant } = rowAt(row)
    if (!product) reading += 1
    if (!variant) continue
    for (let column = Math.max(left, BASE_COLUMN); column <= right; column += 1) {
      const buyer = view.columns[column - FIXED_COLUMNS]
      const cell = variant.cells[column - FIXED_COLUMNS]
      if (buyer && cell?.compared && !cell.hidden)
        prices.push({ amount: cell.compared, cost: cell.cost, currency: buyer.currency })
      else if (column === BASE_COLUMN && variant.base)
        prices.push({ amount: variant.base, cost: variant.cost, currency: view.currency })
    }
  }
  const figures = rangeFigures(prices, view.digits)
  if (!figures) return ['no prices chosen']
  const { count, least, most, mean, meanMargin } = figures
  const shown = (amount: Decimal) =>
    formatAmount(roundToDigits(toFraction(amount), view.digits, 'half-up'), view.digits)
  return [
    `${count} ${count === 1 ? 'price' : 'prices'}`,
    ...(mean ? [`from ${shown(least)} to ${shown(most)}`, `mean ${shown(mean)}`] : ['several currencies']),
    ...(meanMargin ? [`mean margin ${formatPercent(meanMargin)}`] : []),
    ...(reading > 0 ? [`${reading} rows not read yet`] : []),
  ]
}
