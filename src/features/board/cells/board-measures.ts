import { compare, type Decimal } from '@/core/decimal/decimal'
import { differencePercent } from '@/core/decimal/difference-percent'
import { isBelowCost, marginPercent } from '@/core/price/margin'
import { formatAmount, formatPercent } from '@/ui/format/amount'
import type { BoardCell, BoardColumn, BoardProduct, BoardVariant } from '../board-view'

export const MEASURES = [
  { key: 'price', name: 'Price' },
  { key: 'promoted', name: 'Promoted' },
  { key: 'margin', name: 'Margin' },
  { key: 'difference', name: 'To base' },
  { key: 'first', name: 'To first' },
  { key: 'source', name: 'Source' },
  { key: 'limits', name: 'Limits' },
  { key: 'access', name: 'Access' },
] as const
export type Measure = (typeof MEASURES)[number]['key']

/** The price in the first column, what a column is compared with; `null` for one in another currency. */
export function firstAmount(
  columns: readonly BoardColumn[],
  variant: BoardVariant,
  column: number,
): Decimal | null {
  const isComparable = columns[0]?.currency === columns[column]?.currency
  return isComparable ? (variant.cells[0]?.compared ?? null) : null
}

/** How far a cell is from the first column's price, such as `−12.0 %`; empty where it is the same or not comparable. */
export function differenceText({ compared, hidden }: BoardCell, first: Decimal | null): string {
  if (compared === null || first === null || hidden || compared === first) return ''
  const difference = differencePercent(compared, first)
  if (difference === null) return ''
  return difference === '0' ? '< 0.1 %' : figureText('first', difference, 0)
}

/** Measures that are amounts of money. */
export function isPrice(measure: Measure): boolean {
  return measure === 'price' || measure === 'promoted'
}

/** Measures that are words and not figures. */
export function isInWords(measure: Measure): boolean {
  return measure === 'source' || measure === 'limits' || measure === 'access'
}

/** A cell's figure for a measure; `null` when something it needs is missing. */
function measureValue(
  measure: Measure,
  { amount, promoted, compared, cost, base }: BoardCell,
  first: Decimal | null,
): Decimal | null {
  if (measure === 'promoted') return promoted?.amount ?? amount
  if (compared === null || measure === 'price') return amount
  if (isInWords(measure)) return null
  const other = measure === 'margin' ? cost : measure === 'first' ? first : base
  if (other === null) return null
  return measure === 'margin' ? marginPercent(compared, other) : differencePercent(compared, other)
}

function figureText(measure: Measure, value: Decimal, digits: number): string {
  if (isPrice(measure)) return formatAmount(value, digits)
  if (measure === 'margin') return formatPercent(value)
  return value === '0' ? '=' : `${value.startsWith('-') ? '' : '+'}${formatPercent(value)}`
}

/** What a cell shows for a measure. */
export function measureText(
  measure: Measure,
  cell: BoardCell,
  digits: number,
  listNames: Readonly<Record<string, string>>,
  /** The price in the first column, where it is in the same currency. */
  first: Decimal | null = null,
): string {
  if (cell.hidden) return 'hidden'
  if (measure === 'limits') return cell.limits || '–'
  if (measure === 'access') return cell.barred || (cell.amount === null ? 'no price' : 'buys')
  if (isPrice(measure) && (cell.barred === 'quote only' || cell.barred === 'no price shown'))
    return cell.barred
  if (cell.amount === null) return 'no price'
  if (measure === 'source') return cell.list === null ? 'base price' : (listNames[cell.list] ?? cell.list)
  const value = measureValue(measure, cell, first)
  if (value === null) return measure === 'margin' ? 'no cost' : measure === 'first' ? '–' : 'no base'
  return figureText(measure, value, digits)
}

/** What a closed product shows for a measure: from the lowest to the highest of its variants. */
export function measureRange(
  measure: Measure,
  product: BoardProduct,
  columns: readonly BoardColumn[],
  column: number,
  digits: number,
): string {
  const values = product.variants
    .flatMap((variant) => {
      const cell = variant.cells[column]
      const value = cell && measureValue(measure, cell, firstAmount(columns, variant, column))
      return value ? [value] : []
    })
    .sort(compare)
  const [low, high] = [values[0], values.at(-1)]
  if (low === undefined || high === undefined) return ''
  const [from, to] = [figureText(measure, low, digits), figureText(measure, high, digits)]
  return from === to ? from : `${from.replace(' %', '')} – ${to}`
}

/** What a closed product shows in a narrow column: the lowest of several amounts, with a plus where there are higher ones. */
export function fromText(amounts: readonly (Decimal | null)[], digits: number): string {
  const present = amounts.filter((amount) => amount !== null).sort(compare)
  const [low, high] = [present[0], present.at(-1)]
  if (low === undefined) return ''
  return `${formatAmount(low, digits)}${low === high ? '' : '+'}`
}

/** Whether a cell's price is below its cost, as far as both are known; after promotions where these are looked at. */
export function isCellBelowCost(
  { compared, promoted, cost }: BoardCell,
  measure: Measure = 'price',
): boolean {
  const price = (measure === 'promoted' ? promoted?.amount : null) ?? compared
  return price !== null && cost !== null && isBelowCost(price, cost)
}
