import 'server-only'

import { inTreeOrder, pathToRoot } from '@/core/catalogue/category'
import { findByCode, findBySku, nearestSku } from '@/core/catalogue/find-by-code'
import type { Product, Variant } from '@/core/catalogue/product'
import { layersOf } from '@/core/maps/layered-map'
import { sharedMemory } from '@/core/maps/shared-memory'
import { atOnce, eachInSteps, type Steps } from '@/core/steps/steps'
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
  /** Where each product stands, by its id. */
  readonly places: ReadonlyMap<string, number>
  /** Ids of categories against where all that is in them or below stands; `null` until first asked for. */
  byCategory: ReadonlyMap<string, readonly number[]> | null
}

/** Kept as long as the records they were made from: sorting a large catalogue for every block would be waste. */
const shelves = sharedMemory('shelves', () => new WeakMap<Store['product'], Shelves>())

function shelvesOf(store: Store): Shelves {
  const known = shelves.get(store.product)
  if (known?.variants === store.variant && known.categories === store.category) return known
  const made = carriedOver(store) ?? shelve(store)
  shelves.set(store.product, made)
  return made
}

function shelve(store: Store): Shelves {
  const variantsOf = new Map<string, Variant[]>()
  for (const variant of store.variant.values()) {
    const siblings = variantsOf.get(variant.product)
    if (siblings) siblings.push(variant)
    else variantsOf.set(variant.product, [variant])
  }
  const branches = new Map(inTreeOrder(store.category).map(({ category }, at) => [category.id, at]))
  const products = [...store.product.values()]
    .filter(({ status }) => status === 'active')
    .map((product) => toShelved(product, (variantsOf.get(product.id) ?? []).sort(byPosition)))
    .sort(
      (left, right) =>
        (branches.get(left.product.categories[0] ?? '') ?? 0) -
          (branches.get(right.product.categories[0] ?? '') ?? 0) ||
        (left.product.name < right.product.name ? -1 : 1),
    )
  return {
    variants: store.variant,
    categories: store.category,
    products,
    places: new Map(products.map(({ product }, at) => [product.id, at])),
    byCategory: null,
  }
}

function toShelved(product: Product, variants: readonly Variant[]): Shelved {
  return { product, variants, title: `${product.name} ${product.code}`.toLowerCase(), words: null }
}

function byPosition(left: Variant, right: Variant): number {
  return left.position - right.position
}

/**
 * The shelves of the catalogue before some edits, with what was edited put in its place.
 *
 * Errors  `null` where none are known, or where an edit moves something.
 */
function carriedOver({ product: products, variant: variants, category }: Store): Shelves | null {
  const changedProducts = layersOf(products)
  const changedVariants = layersOf(variants)
  const known = shelves.get(products) ?? (changedProducts && shelves.get(changedProducts.below))
  if (!known || known.categories !== category) return null
  if (known.variants !== variants && known.variants !== changedVariants?.below) return null
  const after = [...known.products]
  const at = (id: string) => known.places.get(id)
  for (const [id, product] of changedProducts?.layer ?? []) {
    const place = at(id)
    const before = place === undefined ? null : after[place]
    if (place === undefined || !before || !product || !staysInPlace(before.product, product)) return null
    after[place] = { ...before, product }
  }
  for (const [id, variant] of known.variants === variants ? [] : (changedVariants?.layer ?? [])) {
    const place = variant ? at(variant.product) : undefined
    const shelved = place === undefined ? null : after[place]
    const among = shelved?.variants.findIndex((each) => each.id === id) ?? -1
    if (!variant || !shelved || place === undefined || among < 0) return null
    if (shelved.variants[among]?.position !== variant.position) return null
    after[place] = toShelved(shelved.product, shelved.variants.with(among, variant))
  }
  return { ...known, variants, products: after }
}

function staysInPlace(before: Product, after: Product): boolean {
  return (
    before.status === after.status &&
    before.name === after.name &&
    before.code === after.code &&
    before.categories.join() === after.categories.join()
  )
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
  const { products, places } = shelvesOf(store)
  return products[places.get(findByCode(store.product, code)?.id ?? '') ?? -1]
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
    const texts = wordsOf(each)
    const variants = each.variants.filter((_, at) => words.every((word) => texts[at]?.includes(word)))
    return variants.length > 0 ? [{ product: each.product, variants }] : []
  })
}

function wordsOf(shelved: Shelved): readonly string[] {
  return (shelved.words ??= shelved.variants.map(({ sku, options }) =>
    `${shelved.title} ${sku} ${Object.values(options).join(' ')}`.toLowerCase(),
  ))
}

function productsIn(store: Store, code: string): readonly Shelved[] {
  const wanted = findByCode(store.category, code)?.id
  if (wanted === undefined) return []
  const shelved = shelvesOf(store)
  shelved.byCategory ??= atOnce(placesByCategory(shelved))
  const { products, byCategory } = shelved
  return (byCategory.get(wanted) ?? []).map((at) => products[at] as Shelved)
}

function* placesByCategory({ products, categories }: Shelves): Steps<ReadonlyMap<string, readonly number[]>> {
  const above = new Map([...categories.keys()].map((id) => [id, pathToRoot(categories, id)]))
  const places = new Map<string, number[]>()
  yield* eachInSteps(products.entries(), ([at, { product }]) => {
    for (const { id } of product.categories.flatMap((category) => above.get(category) ?? [])) {
      const known = places.get(id)
      if (!known) places.set(id, [at])
      else if (known.at(-1) !== at) known.push(at)
    }
  })
  return places
}

/** Makes everything ready that is looked up in a catalogue, so that nobody who asks first waits for it. */
export function* readyCatalogue(store: Store): Steps<void> {
  const shelved = shelvesOf(store)
  yield
  shelved.byCategory ??= yield* placesByCategory(shelved)
  yield* eachInSteps(shelved.products, wordsOf)
  findByCode(store.product, '')
  yield
  findBySku(store.variant, '')
  yield
  nearestSku(store.variant, '')
}
