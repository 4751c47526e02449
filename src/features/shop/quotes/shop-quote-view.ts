import type { Decimal } from '@/core/decimal/decimal'
import type { OrderAmount } from '@/core/order/order'
import type { QuoteStepKind } from '@/core/quote/quote-event'

/** A line as its buyer sees it: what the merchant pays for it, and why, is not in it. */
export interface ShopQuoteLine {
  /** Position in the offer; in the request while nothing is offered. */
  readonly position: number
  readonly sku: string
  readonly name: string
  readonly picture: string
  /** Code of its product, where it is still shown to them. */
  readonly product: string | null
  readonly extras: readonly string[]
  readonly quantity: Decimal
  /** What they would pay without a quote; `null` where they see no price. */
  readonly their: Decimal | null
  /** What is offered for one; `null` while nothing is. */
  readonly price: Decimal | null
  readonly total: Decimal | null
  /** What is said of it: the merchant's note, another quantity than was asked for, what they wished. */
  readonly notes: readonly string[]
  /** What one cost in the offer before, where that was something else. */
  readonly before: Decimal | null
  readonly insteadOf: number | null
}

/** What taking lines of an offer comes to. */
export interface QuoteSums {
  readonly goods: OrderAmount
  readonly delivery: OrderAmount
  readonly taxes: readonly { readonly label: string; readonly amount: Decimal }[]
  readonly total: Decimal
  /** The same at their prices; `null` where they see none. */
  readonly atTheirs: Decimal | null
}

/** A quote as its buyer sees it. */
export interface ShopQuoteView {
  readonly number: number
  readonly version: number
  readonly title: string
  readonly about: string
  readonly currency: string
  readonly digits: number
  readonly priceDigits: number
  readonly basis: 'net' | 'gross'
  readonly words: string
  readonly lines: readonly ShopQuoteLine[]
  /** Of all lines that are no alternatives; `null` before there is an offer, or where it cannot be ordered any more. */
  readonly sums: QuoteSums | null
  readonly until: string
  readonly left: string
  readonly promise: string
  /** Whether it is paid by card when it is accepted. */
  readonly byCard: boolean
  readonly said: readonly { readonly who: string; readonly when: string; readonly text: string }[]
  /** What they sent along. */
  readonly files: readonly { readonly id: string; readonly name: string; readonly size: number }[]
  readonly steps: readonly QuoteStepKind[]
  /** Number of the order it became. */
  readonly order: number | null
  /** Why it cannot be accepted though it stands; empty where it can. */
  readonly hindrance: string
}
