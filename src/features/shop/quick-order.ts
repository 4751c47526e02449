import { type Decimal, parseDecimal } from '@/core/decimal/decimal'
import { isQuantity } from '@/ui/frame/vantage-url'

/** One line of a pasted list. */
export interface QuickLine {
  readonly text: string
  readonly sku: string | null
  readonly quantity: Decimal | null
}

/** Reads `SKU quantity`, between blanks, commas, semicolons or tabs; without a quantity one is meant. */
export function readQuickOrder(list: string): readonly QuickLine[] {
  return list
    .split(/\r?\n/)
    .map((line) => line.trim())
    .filter(Boolean)
    .map((text) => {
      const [sku = null, typed = '1', more] = text.split(/[\s,;]+/)
      const isRead = more === undefined && isQuantity(typed)
      return { text, sku: isRead ? sku : null, quantity: isRead ? parseDecimal(typed) : null }
    })
}
