import type { What, WhatTerm } from '@/core/predicates/what'

/** Something of the catalogue a rule can be for, with what it is called and how it is typed. */
export interface WhatChoice {
  readonly term: WhatTerm
  readonly name: string
  /** Read again, it means this term and nothing else. */
  readonly text: string
}

export interface BranchChoice extends WhatChoice {
  readonly id: string
  readonly parent: string | null
  readonly depth: number
  /** Variants in it and below. */
  readonly variants: number
}

/** An attribute or option, with each of its values. */
export interface AttributeChoice {
  readonly name: string
  readonly values: readonly (WhatChoice & {
    readonly value: string
    /** Variants that have it. */
    readonly variants: number
    /** Those of them that the scope matches. */
    readonly matched: number
  })[]
}

/** How many values fall between one edge and the next; there is one edge more than there are counts. */
export interface Histogram {
  /** Plain decimals, ascending; a value on an edge counts above it. */
  readonly edges: readonly string[]
  readonly counts: readonly number[]
}

export interface WhatChoices {
  readonly branches: readonly BranchChoice[]
  /** Price families and extras. */
  readonly others: readonly (WhatChoice & { readonly kind: string })[]
  /** What the rule names already that stands in none of these: products, variants, ranges of prices. */
  readonly named: readonly WhatChoice[]
}

/** A product or variant found by typing. */
export interface FoundItem extends WhatChoice {
  readonly about: string
  /** The branches it is in or below. */
  readonly branches: readonly string[]
}

/** A variant found by typing. */
export interface VariantFound {
  readonly sku: string
  readonly name: string
}

/** What a scope matches, live. */
export interface WhatMatched {
  readonly variants: number
  readonly products: number
  readonly extras: number
  /** Products, lowest margin first; some of them where there are many. */
  readonly rows: readonly {
    readonly name: string
    readonly variants: number
    /** Base prices, lowest to highest. */
    readonly base: string
    /** The lowest, in percent with a sign; empty without costs. */
    readonly margin: string
  }[]
  /** Matched variants in and below each branch that has any, by its id. */
  readonly branches: Readonly<Record<string, number>>
  /** What the matched variants have, or all variants while nothing is matched. */
  readonly attributes: readonly AttributeChoice[]
  /** Stored base prices of what the scope would match without its ranges of prices; `null` where there are none. */
  readonly prices: Histogram | null
  /** Margins at the base price in percent, of what is matched. */
  readonly margins: Histogram | null
  /** Matched variants by stock, as if no term spoke of it. */
  readonly stock: { readonly inStock: number; readonly outOfStock: number }
  /** The store's own currency. */
  readonly currency: string
  /** What is left out in one branch and stays in through another. */
  readonly notes: readonly string[]
}

export type ReadWords =
  | { readonly ok: true; readonly what: What; readonly named: readonly WhatChoice[] }
  | { readonly ok: false; readonly problem: string }
