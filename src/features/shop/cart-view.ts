import type { Decimal } from '@/core/decimal/decimal'
import type { TaxDisplay } from '@/core/places/place'

export interface CartLineView {
  readonly position: number
  readonly sku: string
  readonly product: string
  readonly name: string
  readonly extras: readonly string[]
  readonly quantity: string
  readonly step: string | null
  readonly values: readonly { readonly quantity: string; readonly label: string }[] | null
  readonly unit: Decimal | null
  readonly total: Decimal | null
  readonly stock: string
}

/** What stands in the way, as a sentence, and what would mend it by one click. */
export interface CartProblemView {
  readonly text: string
  /** Position of the line it is about; `null` for the whole cart. */
  readonly line: number | null
  readonly fixes: readonly {
    readonly line: number
    readonly quantity: string
    readonly label: string
    /** Id of an extra the line goes on without. */
    readonly without?: string
  }[]
}

export interface CartSum {
  readonly label: string
  readonly amount: Decimal
}

export interface CartView {
  readonly currency: string
  readonly digits: number
  /** Digits of a single price. */
  readonly priceDigits: number
  readonly display: TaxDisplay
  readonly lines: readonly CartLineView[]
  /** What it comes to, top to bottom; the last is what is paid. */
  readonly sums: readonly CartSum[]
  /** Why no tax is charged; empty where it is. */
  readonly untaxed: string
  readonly problems: readonly CartProblemView[]
}
