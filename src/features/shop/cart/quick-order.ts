import { type Decimal, parseDecimal } from '@/core/decimal/decimal'
import { isQuantity } from '@/ui/frame/vantage-url'

/** One line of a pasted list. */
export interface QuickLine {
  readonly text: string
  readonly sku: string | null
  /** `null` where what stands behind the SKU is no quantity. */
  readonly quantity: Decimal | null
}

/** Reads `SKU quantity`, separated by spaces, commas, semicolons or tabs; without a quantity it is one. */
export function readQuickOrder(list: string): readonly QuickLine[] {
  return list
    .split(/\r?\n/)
    .map((line) => line.trim())
    .filter(Boolean)
    .map((text) => {
      const [sku = null, typed = '1', more] = text.split(/[\s,;]+/)
      const isRead = more === undefined && isQuantity(typed)
      return { text, sku, quantity: isRead ? parseDecimal(typed) : null }
    })
}
