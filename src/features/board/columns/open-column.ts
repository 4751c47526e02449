import type { PreparedStore } from '@/core/engine/context/prepared-store'
import type { PricingContext } from '@/core/engine/context/pricing-context'
import type { ItemPromotions } from '@/core/engine/promoted/item-promotions'
import type { BoardColumn } from '../board-view'

/** A buyer in what is live. */
export interface LiveColumn {
  readonly prepared: PreparedStore
  readonly pricingContext: PricingContext
}

/** A column with everything its cells are found with. */
export interface OpenColumn {
  readonly column: BoardColumn
  readonly pricingContext: PricingContext
  readonly itemPromotions: ItemPromotions
  /** The same buyer beside the draft that is looked through; `null` without one. */
  readonly live: LiveColumn | null
  /** In thousandths. */
  readonly quantity: number
}
