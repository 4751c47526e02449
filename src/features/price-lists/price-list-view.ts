import type { BuyerCode } from '@/core/buyers/buyer-code'
import type { Vantage } from '@/core/engine/context/vantage'
import type { Decimal } from '@/core/decimal/decimal'
import type { RoundingRule } from '@/core/decimal/rounding'
import type { What } from '@/core/predicates/what'
import type { Who } from '@/core/predicates/who'
import type { CurveStep } from '@/ui/chart/step-curve'
import type { HistoryLine } from '@/ui/format/history-line'

export interface PriceListRow {
  readonly code: string
  readonly name: string
  readonly purpose: string
  readonly on: boolean
  readonly audience: string
  readonly accounts: number
  readonly lines: number
  /** What happens to everything not listed; empty for nothing. */
  readonly otherwise: string
  /** How many variants it decides for the buyer looked as. */
  readonly decides: number
}

/** What a line (or the default line) does to the variants it gives the price of. */
export interface LineEffect {
  readonly variants: number
  readonly base: string
  readonly price: string
  /** Lowest and highest margin in percent; `null` without costs. */
  readonly margin: { readonly low: Decimal; readonly high: Decimal } | null
  readonly belowCost: number
}

interface PriceLineView {
  readonly id: string
  readonly scope: string
  /** The same as terms. */
  readonly what: What
  readonly rule: string
  /** The same in words, and as it is spoken. */
  readonly ruleText: string
  readonly ruleSpoken: string
  /** When it holds, in words and as it is typed; empty where that is whenever the list does. */
  readonly when: string
  readonly whenText: string
  /** What its example costs from each quantity on, where quantities matter: numbers for drawing. */
  readonly curve: readonly CurveStep[]
  readonly rounding: string
  readonly effect: LineEffect
  /** A SKU whose price the trace shows when the line is asked about. */
  readonly example: string | null
}

/** How much of the catalogue a list prices, and how much of that it decides for anybody. */
export interface CoverageView {
  /** Variants there are, those it prices, those it decides. */
  readonly of: number
  readonly priced: number
  readonly decided: number
  /** How many kinds of buyers were looked through. */
  readonly kinds: number
  readonly never: {
    readonly count: number
    readonly some: readonly { readonly sku: string; readonly instead: string }[]
  }
  readonly branches: readonly {
    readonly id: string
    readonly name: string
    readonly of: number
    readonly priced: number
    readonly decided: number
  }[]
}

export interface PriceListView {
  readonly id: string
  readonly code: string
  readonly name: string
  readonly purpose: string
  readonly state: 'on' | 'off'
  readonly rank: number
  readonly audience: Who
  /** Whom it is for, in words. */
  readonly audienceText: string
  readonly accounts: number
  /** Whether any line fixes a price. */
  readonly hasFixed: boolean
  readonly otherwise: string
  readonly otherwiseText: string
  readonly otherwiseEffect: LineEffect | null
  readonly rounding: RoundingRule | null
  readonly roundingText: string
  readonly lines: readonly PriceLineView[]
  readonly coverage: CoverageView
  /** The change set that last wrote the list: what an edit of its head must have seen. */
  readonly revision: number
  readonly vantage: Vantage
  /** Somebody the list is for, to look as. */
  readonly example: { readonly as: BuyerCode; readonly name: string } | null
  readonly currency: string
  readonly digits: number
  readonly live: boolean
  /** The change set the figures are as of. */
  readonly asOf: number
  readonly history: readonly HistoryLine[]
}
