import type { Decimal } from '@/core/decimal/decimal'
import type { Vantage } from '@/core/engine/context/vantage'

/** A price list a rule can start from. */
export interface ListName {
  readonly id: string
  readonly code: string
  readonly name: string
}

/** The line a rule would be of, and whose prices it would move. */
export interface RuleContext {
  /** The list it is in; `null` where it is made for somebody. */
  readonly list: string | null
  readonly party: { readonly kind: 'contract' | 'account'; readonly id: string } | null
  /** The line that is changed; `null` for a new one. */
  readonly line: string | null
  /** What a new line is for, as it is typed; one that is changed stays for what it is for. */
  readonly what: string
  readonly vantage: Vantage
}

/** A product's price under a rule that is being tried. */
export interface TriedRow {
  readonly name: string
  readonly now: string
  readonly prices: readonly {
    readonly price: string
    readonly margin: Decimal | null
    readonly isBelowCost: boolean
  }[]
}

/** What a rule would do, lowest margin first. */
export type TriedRule =
  | {
      readonly ok: true
      readonly froms: readonly string[]
      readonly rows: readonly TriedRow[]
      readonly count: number
      /** Against what is paid now, at the first quantity, in percent. */
      readonly mean: Decimal | null
      /** By quantity. */
      readonly belowCost: readonly number[]
    }
  | { readonly ok: false; readonly problem: string }
