import type { ItemFacts } from '../predicates/what'
import { type Category, distancesUp } from './category'
import type { Product, Variant } from './product'

/** What predicates need to know about a variant; `reachedThrough` is the same for all variants of a product. */
export function itemFacts(
  product: Product,
  variant: Variant,
  reachedThrough: ReadonlyMap<string, number>,
): ItemFacts {
  return {
    variant: variant.id,
    product: product.id,
    categories: reachedThrough,
    attributes: { ...product.attributes, ...variant.options },
  }
}

/** Every category a product is reachable through, with the steps up to it. */
export function categoriesOf(
  categories: ReadonlyMap<string, Category>,
  product: Product,
): ReadonlyMap<string, number> {
  return distancesUp(categories, product.categories)
}
