import type { What } from '@/core/predicates/what'
import type { RepriceProblem } from './read-reprice'
import type { ChoiceGroup } from './reprice-choices'
import type { RepriceShown } from './reprice-url'

export interface RepriceRowView {
  /** As `placeKey` makes it. */
  readonly key: string
  readonly title: string
  readonly code: string
  readonly href: string
  readonly now: string
  readonly byRule: string
  readonly next: string
  /** With its sign; `null` where there is no amount before or after. */
  readonly percent: string | null
  readonly isOutlier: boolean
  readonly cost: string
  readonly marginNow: string
  readonly marginNext: string
  readonly isBelowCost: boolean
  readonly problem: string
}

export interface RepriceView {
  readonly shown: RepriceShown
  readonly what: What
  readonly whatWords: string
  readonly problem: RepriceProblem | null
  /** Whether a rule is typed, so that there is something to see. */
  readonly isAsked: boolean
  readonly rows: readonly RepriceRowView[]
  readonly counts: {
    readonly all: number
    readonly outliers: number
    readonly same: number
    readonly problems: number
  }
  /** How many rows the tab has, and where the page begins. */
  readonly total: number
  readonly start: number
  readonly median: string
  readonly middleHalf: string
  readonly bars: readonly {
    readonly from: number
    readonly to: number
    readonly count: number
    readonly isOutlier: boolean
  }[]
  readonly margin: { readonly now: string; readonly next: string } | null
  readonly belowCost: number
  /** Fixed prices of lists that do not follow; `null` where none could. */
  readonly fixedLines: number | null
  readonly draft: { readonly name: string; readonly already: number } | null
  readonly live: boolean
  readonly choices: {
    readonly fields: readonly ChoiceGroup[]
    readonly facts: readonly ChoiceGroup[]
    readonly sources: readonly ChoiceGroup[]
  }
}

export const PAGE_ROWS = 100
