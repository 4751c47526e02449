import type { Decimal } from '@/core/decimal/decimal'

/** A visitor's price, beside the one it is compared with where that is higher. */
export interface ShopPrice {
  /** `null` when there is no price. */
  readonly own: Decimal | null
  /** `null` unless it is higher than the visitor's own. */
  readonly was: Decimal | null
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
  /** What they pay from which quantity on; empty when the quantity does not matter. */
  readonly breaks: readonly { readonly from: Decimal; readonly unit: Decimal }[]
  readonly extras: readonly { readonly code: string; readonly name: string; readonly price: Decimal | null }[]
}

/** What some pieces cost. */
export interface ShopQuote extends ShopPrice {
  readonly total: Decimal | null
}

/** Where one can have things brought to, and what one can pay in. */
export interface ShopChoices {
  readonly country: string
  readonly countries: readonly { readonly code: string; readonly name: string }[]
  /** Empty leaves it to the place. */
  readonly currency: string
  /** What they pay in where they leave it. */
  readonly following: string
  readonly currencies: readonly string[]
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
