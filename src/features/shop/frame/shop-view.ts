import type { UnitPrice } from '@/core/catalogue/content'
import type { Decimal } from '@/core/decimal/decimal'
import type { QuantityLimits } from '@/core/limits/limit'
import type { TaxDisplay } from '@/core/places/place'

/** A visitor's price, beside the one it is compared with where that is higher. */
export interface ShopPrice {
  /** `null` when there is no price, or none is shown. */
  readonly own: Decimal | null
  /** `null` unless it is higher than the visitor's own. */
  readonly was: Decimal | null
  /** Beside a price without tax, where both are shown. */
  readonly withTax: Decimal | null
  /** For one unit of what it holds, with tax or without as `own` is; `null` where nobody says what it holds. */
  readonly perUnit: UnitPrice | null
  /** Whether a promotion makes it what it is. */
  readonly isPromoted: boolean
  /** Why no price is shown; `null` where one would be. */
  readonly hidden: 'quote' | 'sign-in' | 'not-shown' | null
}

export interface ShopCard {
  readonly code: string
  readonly name: string
  readonly picture: string
  readonly about: string
  readonly price: ShopPrice
  /** Whether variants differ in price, so that the card says "from". */
  readonly from: boolean
  readonly badge: ShopBadge | null
  /** SKU a quote can be asked for, where that is the only way to it; `null` elsewhere. */
  readonly byQuote: string | null
}

/** A promotion as it is announced. */
export interface ShopBadge {
  readonly name: string
  /** "until 31 Jan 2027"; empty for what holds without end. */
  readonly ends: string
}

/** The same beside a product, with how it stands: "2 more for it, saves €4.20." */
export interface ShopNote extends ShopBadge {
  readonly text: string
}

export interface ShopCategoryLink {
  readonly code: string
  readonly name: string
}

/** Where one is in a list that does not fit on a page. */
export interface ShopPages {
  /** From 1 on. */
  readonly page: number
  readonly pages: number
  /** How many there are on all pages. */
  readonly total: number
}

export interface ShopListing extends ShopPages {
  readonly title: string
  readonly path: readonly ShopCategoryLink[]
  readonly children: readonly ShopCategoryLink[]
  readonly cards: readonly ShopCard[]
}

/** How many of a variant may be bought, and what the quantity field starts with. */
export interface ShopLimits {
  readonly own: QuantityLimits
  readonly first: string
  readonly step: string | null
  readonly values: readonly { readonly quantity: string; readonly label: string }[] | null
  /** "12 per case: in multiples of 12, at most 96". */
  readonly help: string
}

export interface ShopVariant {
  readonly sku: string
  readonly name: string
  /** By the product’s axes. */
  readonly options: Readonly<Record<string, string>>
  readonly price: ShopPrice
  /** What they pay from which quantity on; empty when the quantity does not matter. */
  readonly breaks: readonly { readonly from: Decimal; readonly unit: Decimal }[]
  readonly extras: readonly { readonly code: string; readonly name: string; readonly price: Decimal | null }[]
  readonly limits: ShopLimits
  readonly stock: string
  /** What promotions say of one piece. */
  readonly notes: readonly ShopNote[]
  /** What is said instead of a button; `null` where it may be bought. */
  readonly notForSale: string | null
  /** Whether a quote can be asked for on it. */
  readonly mayAsk: boolean
}

/** What some pieces cost. */
export interface ShopQuote extends ShopPrice {
  readonly total: Decimal | null
  /** What promotions say of so many. */
  readonly notes: readonly ShopNote[]
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
  /** Of the currency's smallest unit, to which prices per unit are rounded. */
  readonly minorDigits: number
  readonly display: TaxDisplay
  /** What stands behind a price: in the merchant's words. */
  readonly words: { readonly net: string; readonly gross: string }
}

/** Where a link to something that is not shown leads, and what is said there. */
export interface ShopAway {
  readonly landing: 'message' | 'sign-in' | 'contact'
  readonly message: string
}

/** One page of what was found. */
export interface ShopFound extends ShopPages {
  readonly cards: readonly ShopCard[]
}

/** A product that may be meant by what was typed into the search. */
export interface ShopSuggestion {
  readonly code: string
  readonly name: string
}
