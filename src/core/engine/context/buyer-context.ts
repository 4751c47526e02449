import type { BuyerReference } from '../../buyers/buyer'
import type { Decimal } from '../../decimal/decimal'
import type { Place } from '../../places/place'
import type { PromotionFacts } from '../../promotions/facts'

/** Who asks, where and when. What is not said follows from who asks: their country, their contract's currency. */
export interface BuyerContext {
  readonly buyer: BuyerReference
  /** Id; `null` is the store's first channel. */
  readonly channel: string | null
  /** Where it is delivered; `null` is the account's own country, else the store's. */
  readonly deliverTo: Place | null
  /** ISO 4217, when one is asked for. */
  readonly currency: string | null
  /** Id of the passcode they came in with; `null` without one. */
  readonly passcode: string | null
  /** Epoch milliseconds. */
  readonly at: number
  /**
   * Of variants, by id, that the public pays less for now: the lowest price before, in the basis of the store. Only where the
   * store strikes it through and its history is known.
   */
  readonly priorPrices?: ReadonlyMap<string, Decimal> | null
}

/** How many of another variant are bought together with the one in question. */
export interface BasketLine {
  readonly variant: string
  readonly quantity: Decimal
}

/** Who wants what, where and when: one cell of the board, one page of the shop. */
export interface Question extends BuyerContext {
  /** Id of the variant. */
  readonly variant: string
  readonly quantity: Decimal
  /** Ids of the extras wanted with each piece. */
  readonly extras: readonly string[]
  /** What else is in the basket, for breaks that count it. */
  readonly basket: readonly BasketLine[]
  /** What promotions ask beside it; left out where nothing is known, `null` to leave promotions out. */
  readonly promotions?: PromotionFacts | null
}

export type QuestionError =
  | { readonly code: 'unknown-buyer'; readonly buyer: BuyerReference }
  | { readonly code: 'unknown-variant'; readonly variant: string }
  | { readonly code: 'unknown-channel'; readonly channel: string }
  | { readonly code: 'unknown-currency'; readonly currency: string }
  | { readonly code: 'unknown-extra'; readonly extra: string }
  | { readonly code: 'quantity-not-positive'; readonly quantity: Decimal }

/** From the store's own country and first channel, in the currency that follows. */
export function buyerContext(buyer: BuyerReference, at: number): BuyerContext {
  return { buyer, channel: null, deliverTo: null, currency: null, passcode: null, at }
}
