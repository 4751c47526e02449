import type { Offer } from './quote'

/** Why an offer was not taken. */
export const LOST_REASONS = ['price', 'delivery', 'elsewhere', 'not-needed', 'other'] as const
export type LostReason = (typeof LOST_REASONS)[number]

/** What can be done with a quote. */
export type QuoteStep =
  /** The merchant offers; a new offer takes the place of the one before. */
  | { readonly kind: 'offer'; readonly offer: Offer; readonly message: string }
  /** An offer that somebody else must approve before it is sent. */
  | { readonly kind: 'ask-approval'; readonly offer: Offer; readonly message: string }
  /** The offer that waits is sent as it is. */
  | { readonly kind: 'approve' }
  | { readonly kind: 'send-back'; readonly reason: string }
  /** The merchant will not offer. */
  | { readonly kind: 'refuse'; readonly message: string }
  /** The buyer writes back. */
  | { readonly kind: 'answer'; readonly message: string }
  | { readonly kind: 'decline'; readonly reason: LostReason; readonly message: string }
  /** `lines` are positions in the offer; `order` the number of the order it became. */
  | { readonly kind: 'accept'; readonly lines: readonly number[]; readonly order: number }
  /** Nobody accepted in time. */
  | { readonly kind: 'expire' }
  /** For the merchant's own eyes. */
  | { readonly kind: 'note'; readonly text: string }
  /** The offered prices went into a draft, as a price list or a contract of the buyer's. */
  | { readonly kind: 'keep-prices'; readonly draft: string; readonly list: string }

export type QuoteStepKind = QuoteStep['kind']

/** A step that was taken, by whom and when. */
export interface QuoteEvent {
  readonly step: QuoteStep
  /** Epoch milliseconds. */
  readonly at: number
  readonly author: string
}

/** How a quote stands. */
export const QUOTE_STATES = [
  'asked',
  'approval',
  'offered',
  'answered',
  'refused',
  'declined',
  'expired',
  'accepted',
] as const
export type QuoteState = (typeof QUOTE_STATES)[number]

/** States in which the merchant is to do something. */
export const WAITS_FOR_MERCHANT: readonly QuoteState[] = ['asked', 'approval', 'answered']
