import type { Category } from '../catalogue/category'

/** One part of the catalogue an assortment takes in or leaves out, by id. */
export type AssortmentTerm =
  | { readonly kind: 'category'; readonly category: string }
  | { readonly kind: 'product'; readonly product: string }
  | { readonly kind: 'variant'; readonly variant: string }

/** What a channel sells, or a contract covers: the nearest setting on the tree wins. */
export interface Assortment {
  readonly start: 'everything' | 'nothing'
  readonly include: readonly AssortmentTerm[]
  readonly exclude: readonly AssortmentTerm[]
}

/** What decided whether an assortment holds an item. */
export type AssortmentMatch =
  | { readonly holds: boolean; readonly by: AssortmentTerm }
  /** Nothing on any of its paths says anything: as the assortment starts. */
  | { readonly holds: boolean; readonly by: null }

/** An assortment's settings by what they are for: `true` takes in. */
export interface CompiledAssortment {
  readonly assortment: Assortment
  readonly categories: ReadonlyMap<string, boolean>
  readonly products: ReadonlyMap<string, boolean>
  readonly variants: ReadonlyMap<string, boolean>
}

export function compileAssortment(assortment: Assortment): CompiledAssortment {
  const categories = new Map<string, boolean>()
  const products = new Map<string, boolean>()
  const variants = new Map<string, boolean>()
  // Left out last, so that where both are said the item is left out.
  for (const [terms, holds] of [
    [assortment.include, true],
    [assortment.exclude, false],
  ] as const)
    for (const term of terms) {
      if (term.kind === 'category') categories.set(term.category, holds)
      else if (term.kind === 'product') products.set(term.product, holds)
      else variants.set(term.variant, holds)
    }
  return { assortment, categories, products, variants }
}

/** What is asked of an assortment: a variant, its product, and the categories the product is filed under. */
export interface AssortedItem {
  readonly variant: string
  readonly product: string
  readonly filedUnder: readonly string[]
}

/**
 * Whether an assortment holds an item, and through what: its own setting, its product's, else the nearest on each of
 * its paths up the tree. In several categories, it is held when any path leads to it.
 */
export function matchAssortment(
  { assortment, categories, products, variants }: CompiledAssortment,
  tree: ReadonlyMap<string, Category>,
  { variant, product, filedUnder }: AssortedItem,
): AssortmentMatch {
  const own = variants.get(variant)
  if (own !== undefined) return { holds: own, by: { kind: 'variant', variant } }
  const ofProduct = products.get(product)
  if (ofProduct !== undefined) return { holds: ofProduct, by: { kind: 'product', product } }
  let left: AssortmentMatch | null = null
  let open = false
  for (const category of filedUnder) {
    const found = matchPath(categories, tree, category)
    if (found?.holds) return found
    if (found) left ??= found
    else open = true
  }
  const starts = assortment.start === 'everything'
  // A path nobody speaks of is as the assortment starts, whatever another path says.
  if (left && !(open && starts)) return left
  return { holds: starts, by: null }
}

/** Whether an assortment leads through a category: as the nearest setting says, else as it starts. */
export function holdsBranch(
  { assortment, categories }: CompiledAssortment,
  tree: ReadonlyMap<string, Category>,
  category: string,
): boolean {
  return matchPath(categories, tree, category)?.holds ?? assortment.start === 'everything'
}

/** The nearest setting from a category up to the root; `null` where nothing is said. */
function matchPath(
  categories: ReadonlyMap<string, boolean>,
  tree: ReadonlyMap<string, Category>,
  category: string,
): AssortmentMatch | null {
  // Asked for every item of a page: the way up is walked without gathering it.
  for (let id: string | null = category; id !== null; id = tree.get(id)?.parent ?? null) {
    const holds = categories.get(id)
    if (holds !== undefined) return { holds, by: { kind: 'category', category: id } }
  }
  return null
}
