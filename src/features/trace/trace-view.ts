import type { Decimal } from '@/core/decimal/decimal'
import type { TracePart } from '@/ui/trace/trace-part'
import type { TraceStepView } from '@/ui/trace/trace-steps'

export interface TraceLossView {
  readonly parts: readonly TracePart[]
  /** Why it did not decide. */
  readonly reason: string
  /** What it would have given; `null` when nothing. */
  readonly price: Decimal | null
  /** Where it has another basis than the price that won. */
  readonly taxWord: string
}

/** What holds beside the price, and what it came from. */
export interface TraceTerms {
  readonly title: string
  readonly lines: readonly { readonly parts: readonly TracePart[]; readonly outcome: string }[]
}

/** A price and how it came about, as sentences. */
export interface TraceView {
  readonly unit: Decimal | null
  /** What they pay live, where a draft is looked through and says something else; `null` otherwise. */
  readonly live: { readonly unit: Decimal | null; readonly draft: string } | null
  /** ` with tax` or ` without tax` in a store that has both, else empty. */
  readonly taxWord: string
  /** The unit price in the basis of the store, as which cost is given. */
  readonly compared: Decimal | null
  readonly currency: string
  readonly digits: number
  /** What stands behind the amount: "is what Bee farms pay for one …". */
  readonly headline: string
  readonly quantity: Decimal
  /** What all of them cost, exactly. */
  readonly total: Decimal | null
  /** What promotions on item prices leave of it, and their names. */
  readonly promoted: { readonly unit: Decimal; readonly by: string } | null
  /** With its currency. */
  readonly was: string | null
  /** What they pay from which quantity on; empty when the quantity does not matter. */
  readonly breaks: readonly { readonly from: Decimal; readonly unit: Decimal; readonly taxWord: string }[]
  /** Lists that do not offer this at all. */
  readonly hidden: readonly TracePart[]
  readonly steps: readonly TraceStepView[]
  /** Candidates for this buyer that lost. */
  readonly losers: readonly TraceLossView[]
  /** Lists for this buyer that say nothing about the item. */
  readonly silent: readonly TracePart[]
  /** Lists that are for others. */
  readonly others: readonly TraceLossView[]
  /** Adjustments that are on and moved nothing. */
  readonly idle: readonly TraceLossView[]
  /** What would come next if the winner were not there. */
  readonly wouldChange: readonly { readonly parts: readonly TracePart[]; readonly outcome: string }[]
  /** Access, tax and limits. */
  readonly terms: readonly TraceTerms[]
  readonly cost: Decimal | null
  readonly recommendedPrice: Decimal | null
  readonly publicPrice: { readonly amount: Decimal; readonly taxWord: string } | null
}
