import 'server-only'

import { inTreeOrder, pathToRoot } from '@/core/catalogue/category'
import { findByCode } from '@/core/catalogue/find-by-code'
import type { Product, Variant } from '@/core/catalogue/product'
import type { Store } from '@/core/store/store'

export interface ProductWithVariants {
  readonly product: Product
  /** In the order of their positions. */
  readonly variants: readonly Variant[]
}

/** A product with what a search looks through, in lower case. */
interface Shelved extends ProductWithVariants {
  readonly title: string
  /** One for each variant, with the title; made when a search first needs them. */
  words: readonly string[] | null
}

interface Shelves {
  readonly variants: Store['variant']
  readonly categories: Store['category']
  readonly products: readonly Shelved[]
  readonly byId: ReadonlyMap<string, Shelved>
  /** Ids of categories against all that is in them or below, in the same order; filled as they are asked for. */
  readonly byCategory: Map<string, readonly Shelved[]>
}

/** Kept as long as the records they were made from: sorting a large catalogue for every block would be waste. */
const shelves = new WeakMap<Store['product'], Shelves>()

function shelvesOf(store: Store): Shelves {
  const known = shelves.get(store.product)
  if (known?.variants === store.variant && known.categories === store.category) return known
  const variantsOf = new Map<string, Variant[]>()
  for (const variant of store.variant.values()) {
    const siblings = variantsOf.get(variant.product)
    if (siblings) siblings.push(variant)
    else variantsOf.set(variant.product, [variant])
  }
  const places = new Map(inTreeOrder(store.category).map(({ category }, at) => [category.id, at]))
  const products = [...store.product.values()]
    .filter(({ status }) => status === 'active')
    .map((product) => ({
      product,
      variants: (variantsOf.get(product.id) ?? []).sort((left, right) => left.position - right.position),
      title: `${product.name} ${product.code}`.toLowerCase(),
      words: null,
    }))
    .sort(
      (left, right) =>
        (places.get(left.product.categories[0] ?? '') ?? 0) -
          (places.get(right.product.categories[0] ?? '') ?? 0) ||
        (left.product.name < right.product.name ? -1 : 1),
    )
  const made = {
    variants: store.variant,
    categories: store.category,
    products,
    byId: new Map(products.map((each) => [each.product.id, each])),
    byCategory: new Map(),
  }
  shelves.set(store.product, made)
  return made
}

/** All products with their variants, by the tree of categories and then by name. */
export function orderedProducts(store: Store): readonly ProductWithVariants[] {
  return shelvesOf(store).products
}

/**
 * The active product with a code, with its variants.
 *
 * Errors  `undefined` when there is none.
 */
export function findShownProduct(store: Store, code: string): ProductWithVariants | undefined {
  return shelvesOf(store).byId.get(findByCode(store.product, code)?.id ?? '')
}

/** The products in a category (or below it) whose name, code or SKU holds every word. */
export function shownProducts(
  store: Store,
  { category, text }: { readonly category: string | null; readonly text: string },
): readonly ProductWithVariants[] {
  const words = text.toLowerCase().split(/\s+/).filter(Boolean)
  const within = category === null ? shelvesOf(store).products : productsIn(store, category)
  if (words.length === 0) return within
  return within.flatMap((each): readonly ProductWithVariants[] => {
    if (words.every((word) => each.title.includes(word))) return [each]
    each.words ??= each.variants.map(({ sku, options }) =>
      `${each.title} ${sku} ${Object.values(options).join(' ')}`.toLowerCase(),
    )
    const texts = each.words
    const variants = each.variants.filter((_, at) => words.every((word) => texts[at]?.includes(word)))
    return variants.length > 0 ? [{ product: each.product, variants }] : []
  })
}

function productsIn(store: Store, code: string): readonly Shelved[] {
  const wanted = findByCode(store.category, code)?.id
  if (wanted === undefined) return []
  const { products, byCategory } = shelvesOf(store)
  const known = byCategory.get(wanted)
  if (known) return known
  const below = new Set(
    [...store.category.keys()].filter((id) =>
      pathToRoot(store.category, id).some((each) => each.id === wanted),
    ),
  )
  const found = products.filter(({ product }) => product.categories.some((id) => below.has(id)))
  byCategory.set(wanted, found)
  return found
}
