import type { Decimal } from '../decimal/decimal'
import type { TraceStep } from '../engine/explain/trace'
import type { OrderAddress, OrderDocument } from '../order/order'
import type { TaxBasis } from '../price/based-amount'

/** How many files may go along with a request, and how large each may be, in bytes. */
export const MOST_FILES = 3
export const LARGEST_FILE = 5 * 2 ** 20

/** An item somebody asks a price for. */
export interface AskedLine {
  /** Id; the variant may be gone by now. */
  readonly variant: string
  readonly sku: string
  readonly name: string
  /** Ids of what is wanted with each piece, and what it was called. */
  readonly extras: readonly { readonly id: string; readonly name: string }[]
  readonly quantity: Decimal
  /** What one piece cost the buyer when they asked; `null` where they saw no price. */
  readonly their: Decimal | null
  /** What they would like to pay for one; `null` where they did not say. */
  readonly wish: Decimal | null
}

/**
 * What a buyer asked for, at the prices of that moment. It is never changed: what is offered and said since stands in its events.
 *
 * Units   prices of one piece with its extras, in `currency` and `basis`.
 */
export interface QuoteRequest {
  readonly version: 1
  readonly currency: string
  readonly digits: number
  /** How many digits a price of one piece may have. */
  readonly priceDigits: number
  /** Whether all that is spoken of is without tax or with it: as the buyer is shown prices. */
  readonly basis: TaxBasis
  /** Id; `null` is the store's first channel. */
  readonly channel: string | null
  readonly buyer: string
  /** The person who asks, and who asked for them; `null` for themselves. */
  readonly asker: string
  readonly askedBy: string | null
  readonly email: string
  readonly address: OrderAddress
  readonly lines: readonly AskedLine[]
  /** Local date; empty where it does not matter. */
  readonly neededBy: string
  readonly message: string
  readonly terms: string
}

/** One line of an offer. */
export interface OfferLine {
  readonly variant: string
  readonly sku: string
  readonly name: string
  readonly extras: readonly { readonly id: string; readonly name: string }[]
  readonly quantity: Decimal
  /** Position of what it answers in the request; `null` for what the merchant added. */
  readonly asked: number | null
  /** Position of the line of this offer it may be taken instead of; `null` for a line of its own. */
  readonly insteadOf: number | null
  /** What is said of it to the buyer. */
  readonly note: string
  /** What one would have cost the buyer at that moment; `null` where there was no price. */
  readonly their: Decimal | null
  readonly price: Decimal
  /** The whole line. */
  readonly net: Decimal
  readonly gross: Decimal
  /** Of one piece, without tax; `null` where it is not known. */
  readonly cost: Decimal | null
  /** How their own price came about. */
  readonly trace: readonly TraceStep[]
}

/** An offer as it was sent. */
export interface Offer {
  readonly lines: readonly OfferLine[]
  /** The last local date it can be accepted on. */
  readonly until: string
  readonly terms: string
  /** When and how it is delivered, in words. */
  readonly delivery: string
  /** What accepting all of it comes to, without what is offered instead of something. */
  readonly document: OrderDocument
}
