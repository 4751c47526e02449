import type { ItemFacts } from '../predicates/what'
import { type Category, distancesUp } from './category'
import type { Product, Variant } from './product'

/** What predicates need to know about a variant. */
export function itemFacts(
  categories: ReadonlyMap<string, Category>,
  product: Product,
  variant: Variant,
): ItemFacts {
  return {
    variant: variant.id,
    product: product.id,
    categories: distancesUp(categories, product.categories),
    attributes: { ...product.attributes, ...variant.options },
  }
}
