import type { ItemFacts } from '../predicates/what'
import { type Category, distancesUp } from './category'
import { type Product, resolveValue, type Variant } from './product'
import type { Extra } from './extra'

/** What there is to know of a variant beside its records. */
interface Beside {
  /** Ids of variants of which none is left. */
  readonly outOfStock: ReadonlySet<string>
}

/** What predicates need to know about a variant; `reachedThrough` is the same for all variants of a product. */
export function itemFacts(
  product: Product,
  variant: Variant,
  reachedThrough: ReadonlyMap<string, number>,
  beside: Beside,
): ItemFacts {
  return {
    ...ownFacts(product, variant, beside),
    categories: reachedThrough,
    attributes: { ...product.attributes, ...variant.options },
    family: variant.family ?? product.family,
    extra: null,
  }
}

/** What is true of one variant and not of all that are filed like it. */
export function ownFacts(
  product: Product,
  variant: Variant,
  { outOfStock }: Beside,
): Pick<ItemFacts, 'variant' | 'product' | 'basePrice' | 'stock'> {
  return {
    variant: variant.id,
    product: product.id,
    basePrice: resolveValue(product, variant, 'basePrice').value,
    stock: outOfStock.has(variant.id) ? 'out-of-stock' : 'in-stock',
  }
}

/** Every category a product is reachable through, with the steps up to it. */
export function categoriesOf(
  categories: ReadonlyMap<string, Category>,
  product: Product,
): ReadonlyMap<string, number> {
  return distancesUp(categories, product.categories)
}

/** An extra is an item of its own that only rules naming it reach. */
export function extraFacts(extra: Extra): ItemFacts {
  return {
    variant: '',
    product: '',
    categories: new Map(),
    attributes: {},
    family: null,
    basePrice: extra.basePrice,
    stock: 'in-stock',
    extra: extra.id,
  }
}
