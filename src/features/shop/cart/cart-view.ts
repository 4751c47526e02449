import type { UnitPrice } from '@/core/catalogue/content'
import type { Decimal } from '@/core/decimal/decimal'
import type { TaxDisplay } from '@/core/places/place'
import type { CartProblemView, CartPromotionsView } from '@/ui/cart/cart-says'

export interface CartLineView {
  readonly position: number
  readonly sku: string
  readonly product: string
  readonly picture: string
  readonly name: string
  readonly extras: readonly string[]
  readonly quantity: string
  readonly step: string | null
  readonly values: readonly { readonly quantity: string; readonly label: string }[] | null
  readonly unit: Decimal | null
  /** What it is compared with, where that is higher. */
  readonly was: Decimal | null
  readonly perUnit: UnitPrice | null
  readonly total: Decimal | null
  /** Whether the line comes to something else than its quantity times the price of one as shown. */
  readonly isRoundedOnce: boolean
  readonly stock: string
  /** The whole line before promotions; `null` where none took anything off. */
  readonly before: Decimal | null
  /** Names of the promotions that took something off. */
  readonly promotions: readonly string[]
}

export interface CartSum {
  readonly label: string
  readonly amount: Decimal
}

export interface CartView {
  /** Whether a quote can be asked for on some of it. */
  readonly mayAsk: boolean
  /** Whether it can be kept as a list: for whoever has an account. */
  readonly mayKeep: boolean
  readonly currency: string
  readonly digits: number
  /** Digits of a single price. */
  readonly priceDigits: number
  readonly display: TaxDisplay
  /** What stands behind prices without tax and with, in the merchant's words. */
  readonly words: { readonly net: string; readonly gross: string }
  readonly lines: readonly CartLineView[]
  /** What promotions add for nothing. */
  readonly gifts: readonly CartLineView[]
  readonly promotions: CartPromotionsView
  /** What it comes to, top to bottom; the last is what is paid. */
  readonly sums: readonly CartSum[]
  /** Why no tax is charged; empty where it is. */
  readonly untaxed: string
  /** On which terms it may be paid; empty for who pays at once. */
  readonly terms: string
  readonly problems: readonly CartProblemView[]
}
