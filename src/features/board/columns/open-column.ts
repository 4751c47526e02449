import type { PricingContext } from '@/core/engine/context/pricing-context'
import type { ItemPromotions } from '@/core/engine/promoted/item-promotions'
import type { BoardColumn } from '../board-view'

/** A column with everything its cells are found with. */
export interface OpenColumn {
  readonly column: BoardColumn
  readonly pricingContext: PricingContext
  readonly itemPromotions: ItemPromotions
  /** In thousandths. */
  readonly quantity: number
}
