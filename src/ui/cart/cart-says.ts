import type { Decimal } from '@/core/decimal/decimal'

/** Something free that the buyer may take or leave. */
export interface OfferView {
  readonly code: string
  readonly name: string
  readonly saves: Decimal
  readonly choice: 'open' | 'taken' | 'left'
}

/** What promotions say beside the lines. */
export interface CartPromotionsView {
  /** What little more would bring about, as sentences. */
  readonly hints: readonly { readonly name: string; readonly text: string }[]
  readonly offers: readonly OfferView[]
  /** Codes that were typed, and whether each has taken something off. */
  readonly codes: readonly { readonly code: string; readonly text: string; readonly isUsed: boolean }[]
}

/** What stands in the way, as a sentence, and what would correct it by one click. */
export interface CartProblemView {
  readonly text: string
  /** The item it is about; empty for the whole cart. */
  readonly item: string
  /** Position of the line it is about; `null` for the whole cart. */
  readonly line: number | null
  readonly fixes: readonly {
    readonly line: number
    readonly quantity: Decimal
    readonly label: string
    /** Id of an extra the line goes on without. */
    readonly without?: string
  }[]
}
