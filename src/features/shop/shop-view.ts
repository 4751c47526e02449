import type { Decimal } from '@/core/decimal/decimal'

/** A visitor's price, beside the public one where that is higher. */
export interface ShopPrice {
  /** `null` when there is no price. */
  readonly own: Decimal | null
  /** `null` unless it is higher than the visitor's own. */
  readonly public: Decimal | null
}

export interface ShopCard {
  readonly code: string
  readonly name: string
  readonly picture: string
  readonly about: string
  readonly price: ShopPrice
  /** Whether variants differ in price, so that the card says "from". */
  readonly from: boolean
}

export interface ShopCategoryLink {
  readonly code: string
  readonly name: string
}

export interface ShopListing {
  readonly title: string
  readonly path: readonly ShopCategoryLink[]
  readonly children: readonly ShopCategoryLink[]
  readonly cards: readonly ShopCard[]
}

interface ShopVariant {
  readonly sku: string
  readonly name: string
  readonly price: ShopPrice
}

export interface ShopProduct {
  readonly code: string
  readonly name: string
  readonly picture: string
  readonly description: string
  readonly unit: string
  readonly path: readonly ShopCategoryLink[]
  readonly axes: readonly string[]
  readonly facts: readonly (readonly [name: string, value: string])[]
  readonly variants: readonly ShopVariant[]
}

export interface ShopMoney {
  readonly currency: string
  readonly digits: number
}
