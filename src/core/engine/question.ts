import type { BuyerReference } from '../buyers/buyer'

/** Who wants what: one cell of the board, one page of the shop. */
export interface Question {
  readonly buyer: BuyerReference
  /** Id of the variant. */
  readonly variant: string
}

export type QuestionError =
  | { readonly code: 'unknown-buyer'; readonly buyer: BuyerReference }
  | { readonly code: 'unknown-variant'; readonly variant: string }
