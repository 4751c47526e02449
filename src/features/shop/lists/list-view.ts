import type { Decimal } from '@/core/decimal/decimal'

interface ListHead {
  readonly id: string
  readonly name: string
  readonly about: string
}

export interface ListsView {
  readonly lists: readonly ListHead[]
  /** What the account orders again and again, to begin a list with. */
  readonly regular: readonly {
    readonly sku: string
    readonly name: string
    readonly quantity: Decimal
    readonly about: string
  }[]
  /** Whether whoever looks can keep a list to themselves. */
  readonly mayKeepAlone: boolean
}

/** A line of a list at what it costs today. */
export interface ListLineView {
  readonly sku: string
  /** Codes of what is wanted with each piece. */
  readonly extras: readonly string[]
  readonly extraNames: readonly string[]
  readonly name: string
  readonly picture: string
  readonly product: string | null
  readonly quantity: Decimal
  /** Of one today; `null` where they see no price. */
  readonly unit: Decimal | null
  readonly total: Decimal | null
  /** What they paid for one last; empty where never. */
  readonly paid: string
  readonly paidWhen: string
  /** Whether it cost less than today. */
  readonly paidLess: boolean
  /** Why it cannot be bought; empty where it can. */
  readonly problem: string
}

export interface ListView {
  readonly id: string
  readonly name: string
  readonly isShared: boolean
  readonly mayKeepAlone: boolean
  readonly changed: string
  readonly lines: readonly ListLineView[]
  readonly currency: string
  readonly digits: number
  readonly priceDigits: number
  readonly words: string
}
