import 'server-only'

import { distancesUp, inTreeOrder } from '@/core/catalogue/category'
import { findByCode } from '@/core/catalogue/find-by-code'
import type { Product, Variant } from '@/core/catalogue/product'
import type { Store } from '@/core/store/store'

export interface ProductWithVariants {
  readonly product: Product
  /** In the order of their positions. */
  readonly variants: readonly Variant[]
}

/** Kept as long as the records they were made from: sorting a large catalogue for every block would be waste. */
const ordered = new WeakMap<
  Store['product'],
  { variants: Store['variant']; products: readonly ProductWithVariants[] }
>()

/** All products with their variants, by the tree of categories and then by name. */
export function orderedProducts(store: Store): readonly ProductWithVariants[] {
  const known = ordered.get(store.product)
  if (known?.variants === store.variant) return known.products
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
    }))
    .sort(
      (left, right) =>
        (places.get(left.product.categories[0] ?? '') ?? 0) -
          (places.get(right.product.categories[0] ?? '') ?? 0) ||
        (left.product.name < right.product.name ? -1 : 1),
    )
  ordered.set(store.product, { variants: store.variant, products })
  return products
}

/**
 * The active product with a code, with its variants.
 *
 * Errors  `undefined` when there is none.
 */
export function findShownProduct(store: Store, code: string): ProductWithVariants | undefined {
  const id = findByCode(store.product, code)?.id
  return orderedProducts(store).find(({ product }) => product.id === id)
}

/** The products in a category (or below it) whose name, code or SKU holds every word. */
export function shownProducts(
  store: Store,
  { category, text }: { readonly category: string | null; readonly text: string },
): readonly ProductWithVariants[] {
  const wanted = category === null ? null : findByCode(store.category, category)?.id
  const words = text.toLowerCase().split(/\s+/).filter(Boolean)
  if (wanted === null && words.length === 0) return orderedProducts(store)
  return orderedProducts(store).flatMap((each) => {
    if (
      wanted !== null &&
      (wanted === undefined || !distancesUp(store.category, each.product.categories).has(wanted))
    )
      return []
    const title = `${each.product.name} ${each.product.code}`.toLowerCase()
    if (words.every((word) => title.includes(word))) return [each]
    const variants = each.variants.filter((variant) => {
      const whole = `${title} ${variant.sku} ${Object.values(variant.options).join(' ')}`.toLowerCase()
      return words.every((word) => whole.includes(word))
    })
    return variants.length > 0 ? [{ product: each.product, variants }] : []
  })
}
