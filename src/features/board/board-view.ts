import type { Decimal } from '@/core/decimal/decimal'
import type { rightsPhrase } from '@/ui/format/terms-phrases'
import type { Vantage } from '@/core/engine/context/vantage'
import type { What } from '@/core/predicates/what'

/** A buyer's column of the board. */
export interface BoardColumn {
  /** What identifies a column: its buyer where columns differ in nothing else, else the vantage as an address has it. */
  readonly key: string
  readonly vantage: Vantage
  readonly title: string
  readonly subtitle: string
  /** Lists of this buyer an edit can go to, the first one when no list decides yet: id and name. */
  readonly ownLists: readonly {
    readonly id: string
    readonly name: string
    /** Of a column of one account: everybody else the list sets prices for, by name. */
    readonly others: readonly string[]
  }[]
  readonly currency: string
  readonly digits: number
}

/**
 * Where a price comes from: a list, a contract, a quantity break, an adjustment, a conversion, what guests pay, a promotion; and that
 * it is with tax where the store's are without, or the other way round.
 */
export type BoardMark = 'L' | 'C' | 'Q' | 'A' | '≈' | 'G' | 'T' | 'P'

/** What is live where a draft says something else; `null` where it is the same, or live is looked at. */
export type LiveFigure = { readonly amount: Decimal | null } | null

/** What one buyer pays for one variant, and the list that decided; `null` without a price, and for the base price. */
export interface BoardCell {
  readonly amount: Decimal | null
  readonly live: LiveFigure
  /** The amount in the basis of the store, with tax or without, by which cells are compared. */
  readonly compared: Decimal | null
  readonly list: string | null
  /** What promotions on item prices leave of it, in the basis of the store; `null` where they change nothing. */
  readonly promoted: { readonly amount: Decimal; readonly by: string } | null
  readonly marks: readonly BoardMark[]
  /** Base price and cost in the column's currency, in the basis of the store. */
  readonly base: Decimal | null
  readonly cost: Decimal | null
  /** Whether the buyer does not see it at all. */
  readonly hidden: boolean
  /** What else they cannot do with it; empty where they can do all. */
  readonly barred: '' | ReturnType<typeof rightsPhrase>
  /** How many they may buy: `at least 6, in multiples of 6`; empty without limits. */
  readonly limits: string
}

export interface BoardVariant {
  readonly id: string
  readonly sku: string
  readonly name: string
  readonly base: Decimal | null
  /** Whether the base price is the variant's own. */
  readonly ownBase: boolean
  readonly cost: Decimal | null
  readonly liveBase: LiveFigure
  readonly liveCost: LiveFigure
  /** In the order of the columns. */
  readonly cells: readonly BoardCell[]
}

export interface BoardProduct {
  readonly id: string
  readonly code: string
  readonly name: string
  /** What the variants take over when they set no base price of their own. */
  readonly base: Decimal | null
  readonly liveBase: LiveFigure
  /** Whether all its variants are shown: then none out of sight moves with its price. */
  readonly isWhole: boolean
  readonly variants: readonly BoardVariant[]
}

/** The board before any row is read: its columns, and how many variants each product has. */
export interface BoardView {
  readonly columns: readonly BoardColumn[]
  readonly listNames: Readonly<Record<string, string>>
  /** Variants per product, in the order shown. */
  readonly counts: readonly number[]
  readonly variantCount: number
  readonly currency: string
  readonly digits: number
  readonly live: boolean
  /** Whether a draft is looked through. */
  readonly isDraft: boolean
  /** The change set the figures are as of. */
  readonly asOf: number
  /** How much there is of what an empty store needs first. */
  readonly has: {
    readonly categories: number
    readonly products: number
    readonly variants: number
    readonly groups: number
    readonly lists: number
    readonly accounts: number
    readonly contracts: number
    readonly rates: number
  }
  /** The first block of products. */
  readonly firstBlock: readonly BoardProduct[]
  /** What of the catalogue it shows, and that in words. */
  readonly what: What
  readonly whatWords: string
  /** Why it shows nothing, where the address says what the store does not know. */
  readonly whatProblem: string
}

/** How many products are read at once while scrolling. */
export const BLOCK_SIZE = 40

/** What an edit changed on the board: single variants, or so much that the rows are better read again. */
export type BoardPatch =
  | {
      readonly kind: 'variants'
      readonly variants: readonly BoardVariant[]
      readonly products: readonly ProductBase[]
    }
  | { readonly kind: 'reload' }

interface ProductBase {
  readonly id: string
  readonly base: Decimal | null
  readonly liveBase: LiveFigure
}
