/** One part of the catalogue a rule can name. Categories, products and variants are named by id. */
export type WhatTerm =
  | { readonly kind: 'everything' }
  | { readonly kind: 'category'; readonly category: string; readonly descendants: boolean }
  | { readonly kind: 'attribute'; readonly name: string; readonly value: string }
  | { readonly kind: 'product'; readonly product: string }
  | { readonly kind: 'variant'; readonly variant: string }

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
}

export type WhatMatch =
  | { readonly matches: true; readonly by: WhatTerm; readonly specificity: number }
  | { readonly matches: false; readonly because: 'not-included' }
  | { readonly matches: false; readonly because: 'excluded'; readonly by: WhatTerm }

/** Higher is more specific: variant > product > attribute value > category, nearest first > everything. */
const VARIANT = 4000
const PRODUCT = 3000
const ATTRIBUTE = 2000
const CATEGORY = 1000

/** Whether the scope holds this item, through which of its terms (the most specific), or why not. */
export function matchWhat(what: What, item: ItemFacts): WhatMatch {
  const excluded = what.exclude.find((term) => termSpecificity(term, item) !== null)
  if (excluded) return { matches: false, because: 'excluded', by: excluded }
  let best: { by: WhatTerm; specificity: number } | null = null
  for (const by of what.include) {
    const specificity = termSpecificity(by, item)
    if (specificity !== null && (best === null || specificity > best.specificity)) best = { by, specificity }
  }
  return best ? { matches: true, ...best } : { matches: false, because: 'not-included' }
}

/** How many of these items the scope holds. */
export function countWhat(what: What, items: Iterable<ItemFacts>): number {
  let count = 0
  for (const item of items) if (matchWhat(what, item).matches) count += 1
  return count
}

function termSpecificity(term: WhatTerm, item: ItemFacts): number | null {
  switch (term.kind) {
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
      return item.product === term.product ? PRODUCT : null
    case 'variant':
      return item.variant === term.variant ? VARIANT : null
  }
}
