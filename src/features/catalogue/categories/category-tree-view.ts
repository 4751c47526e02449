import type { Branch, TreePlace } from '@/core/catalogue/move-category'

/** A rule or list that names a category, and where it is. */
export interface BranchRule {
  readonly name: string
  readonly href: string
  /** It leaves the category out, where others hold it. */
  readonly isOut: boolean
}

/** The first few of some rules, and how many more there are. */
export interface SomeRules {
  readonly shown: readonly BranchRule[]
  readonly more: number
}

/** The columns of the tree that rules stand in. */
export type RuleColumn = 'lists' | 'limits' | 'access' | 'adjustments'

export interface TreeCategory extends Branch {
  readonly code: string
  readonly name: string
  readonly archived: boolean
  readonly revision: number | null
  /** In it and everything below it. */
  readonly variants: number
  /** Products filed in it itself. */
  readonly filed: number
  readonly rules: Readonly<Record<RuleColumn, SomeRules>>
  /** What its own products all are to the tax office, where that is not the store’s usual class. */
  readonly taxClass: string
}

interface ProductName {
  readonly name: string
  readonly href: string
}

export interface CategoryTreeView {
  readonly categories: readonly TreeCategory[]
  readonly products: number
  /** Products in more than one branch: the rules of all of them reach these. */
  readonly inTwo: readonly ProductName[]
  readonly move: PendingMove | null
  /** Id of the category the tree begins at, with what leads to it open. */
  readonly at: string | null
  readonly live: boolean
  readonly asOf: number
}

/** A move that has not been made. */
export interface PendingMove {
  /** Id of the category. */
  readonly id: string
  readonly place: TreePlace
  /** Lines of price lists that reached it name it from then on. */
  readonly keepsPrices: boolean
}
