import type { BasedAmount } from './based-amount'

/** A price of one piece with its extras that a person settled, and how they came to. */
export interface SettledPrice extends BasedAmount {
  readonly by: SettledBy
}

export type SettledBy =
  | { readonly kind: 'quote'; readonly quote: number }
  /** Set by hand for somebody who orders at the counter or by telephone. */
  | { readonly kind: 'desk'; readonly author: string; readonly reason: string }
