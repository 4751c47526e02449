import { compare, type Decimal } from '../decimal/decimal'

/** Whether there is any of it; a variant whose stock nobody counts is in stock. */
type StockState = 'in-stock' | 'out-of-stock'

/** One part of the catalogue a rule can name. Categories, families, products, variants and extras are named by id. */
export type WhatTerm =
  | { readonly kind: 'everything' }
  | { readonly kind: 'category'; readonly category: string; readonly descendants: boolean }
  | { readonly kind: 'attribute'; readonly name: string; readonly value: string }
  | { readonly kind: 'family'; readonly family: string }
  /** Base prices from `from` up to below `to`, in the store's currency; `null` leaves a side open. */
  | { readonly kind: 'price-range'; readonly from: Decimal | null; readonly to: Decimal | null }
  | { readonly kind: 'stock'; readonly state: StockState }
  /** An extra: no other term reaches one, so a rule for everything leaves them alone. */
  | { readonly kind: 'extra'; readonly extra: string }
  | { readonly kind: 'product'; readonly product: string }
  | { readonly kind: 'variant'; readonly variant: string }

/** Terms that name no record. */
export type UnnamedTerm = Extract<WhatTerm, { readonly kind: 'everything' | 'price-range' | 'stock' }>

/** A scope: an item belongs to it when a term of `include` matches and none of `exclude` does. */
export interface What {
  readonly include: readonly WhatTerm[]
  readonly exclude: readonly WhatTerm[]
}

/** What a predicate needs to know about an item. */
export interface ItemFacts {
  readonly variant: string
  readonly product: string
  /** Every category the product is reachable through, with the steps up to it: 0 for its own. */
  readonly categories: ReadonlyMap<string, number>
  /** Attributes of the product and options of the variant, by name. */
  readonly attributes: Readonly<Record<string, string>>
  /** Price family, by id. */
  readonly family: string | null
  /** In the store's currency, before any adjustment. */
  readonly basePrice: Decimal | null
  readonly stock: StockState
  /** Id of the extra this is; `null` for a variant. */
  readonly extra: string | null
}

/** Two terms with one key say the same. */
export function whatTermKey(term: WhatTerm): string {
  return JSON.stringify(Object.entries(term).sort())
}

export const EVERYTHING: What = { include: [{ kind: 'everything' }], exclude: [] }

export type WhatMatch =
  | { readonly matches: true; readonly by: WhatTerm; readonly specificity: number }
  | { readonly matches: false; readonly because: 'not-included' }
  | { readonly matches: false; readonly because: 'excluded'; readonly by: WhatTerm }

/**
 * Higher is more specific: variant > product > family > attribute value > category, nearest first > everything.
 * A price range or stock state says more than everything and less than a category.
 */
export const PRODUCT_SPECIFICITY = 3000
export const VARIANT_SPECIFICITY = 4000
const FAMILY = 2500
const ATTRIBUTE = 2000
const CATEGORY = 1000
const STATE = 500

/** Whether a term looks at something that changes with every edit or sale, so that no index holds it. */
export function isVolatile(term: WhatTerm): boolean {
  return term.kind === 'price-range' || term.kind === 'stock'
}

/** Whether the scope holds this item, through which of its terms (the most specific), or why not. */
export function matchWhat(what: What, item: ItemFacts): WhatMatch {
  for (const by of what.exclude)
    if (termSpecificity(by, item) !== null) return { matches: false, because: 'excluded', by }
  let best: WhatTerm | null = null
  let most = Number.NEGATIVE_INFINITY
  for (const term of what.include) {
    const specificity = termSpecificity(term, item)
    if (specificity === null || specificity <= most) continue
    best = term
    most = specificity
  }
  return best ? { matches: true, by: best, specificity: most } : NOT_INCLUDED
}

const NOT_INCLUDED: WhatMatch = { matches: false, because: 'not-included' }

/** How many of these items the scope holds. */
export function countWhat(what: What, items: Iterable<ItemFacts>): number {
  let count = 0
  for (const item of items) if (matchWhat(what, item).matches) count += 1
  return count
}

function termSpecificity(term: WhatTerm, item: ItemFacts): number | null {
  if (item.extra !== null)
    return term.kind === 'extra' && term.extra === item.extra ? VARIANT_SPECIFICITY : null
  switch (term.kind) {
    case 'extra':
      return null
    case 'family':
      return item.family === term.family ? FAMILY : null
    case 'stock':
      return item.stock === term.state ? STATE : null
    case 'price-range': {
      const { basePrice } = item
      if (basePrice === null) return null
      if (term.from !== null && compare(basePrice, term.from) < 0) return null
      return term.to !== null && compare(basePrice, term.to) >= 0 ? null : STATE
    }
    case 'everything':
      return 0
    case 'category': {
      const distance = item.categories.get(term.category)
      if (distance === undefined || (distance > 0 && !term.descendants)) return null
      return CATEGORY - distance
    }
    case 'attribute':
      return item.attributes[term.name] === term.value ? ATTRIBUTE : null
    case 'product':
      return item.product === term.product ? PRODUCT_SPECIFICITY : null
    case 'variant':
      return item.variant === term.variant ? VARIANT_SPECIFICITY : null
  }
}
