import { compare, type Decimal } from '@/core/decimal/decimal'
import { differencePercent, marginPercent } from '@/core/price/margin'
import { formatAmount, formatPercent } from '@/ui/format/amount'
import type { BoardCell, BoardProduct, BoardVariant } from './board-view'

export const MEASURES = [
  { key: 'price', name: 'Price' },
  { key: 'margin', name: 'Margin' },
  { key: 'difference', name: 'To base' },
] as const
export type Measure = (typeof MEASURES)[number]['key']

/** What a cell shows for a measure. */
export function measureText(
  measure: Measure,
  cell: BoardCell,
  variant: BoardVariant,
  digits: number,
): string {
  if (cell.amount === null) return 'no price'
  if (measure === 'price') return formatAmount(cell.amount, digits)
  if (measure === 'margin') {
    const margin = variant.cost === null ? null : marginPercent(cell.amount, variant.cost)
    return margin === null ? 'no cost' : formatPercent(margin)
  }
  const difference = variant.base === null ? null : differencePercent(cell.amount, variant.base)
  if (difference === null) return 'no base'
  return difference === '0' ? '=' : `${difference.startsWith('-') ? '' : '+'}${formatPercent(difference)}`
}

/** Whether a price earns less than nothing. */
export function isBelowCost({ amount }: BoardCell, { cost }: BoardVariant): boolean {
  return amount !== null && cost !== null && compare(amount, cost) < 0
}

export function columnAmounts(product: BoardProduct, column: number): readonly (Decimal | null)[] {
  return product.variants.map(({ cells }) => cells[column]?.amount ?? null)
}
