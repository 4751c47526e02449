import 'server-only'

import { sharedMemory } from '@/core/maps/shared-memory'
import { distancesUp } from '@/core/catalogue/category'
import type { Product, Variant } from '@/core/catalogue/product'
import type { PreparedStore } from '@/core/engine/context/prepared-store'
import { scopeMatcher } from '@/core/engine/items/scope-matcher'
import type { What } from '@/core/predicates/what'
import { Slices } from '../doors/slices'

/** A variant that is there to be sold, with its branches. */
export interface SoldVariant {
  /** In the catalogue index. */
  readonly number: number
  readonly variant: Variant
  readonly product: Product
  /** The branches it is in or below, with every branch above; one array for all variants of a product. */
  readonly branches: readonly string[]
}

interface Kept {
  readonly products: PreparedStore['store']['product']
  readonly categories: PreparedStore['store']['category']
  readonly index: PreparedStore['index']
  readonly sold: Promise<readonly SoldVariant[]>
}

const KEPT = sharedMemory('sold-variants', () => new WeakMap<PreparedStore['store']['variant'], Kept>())

/** Every variant that is there to be sold; kept as long as the catalogue, which prices do not change. */
export function soldVariants({ store, index }: PreparedStore): Promise<readonly SoldVariant[]> {
  const { product: products, category: categories } = store
  const known = KEPT.get(store.variant)
  if (known?.products === products && known.categories === categories && known.index === index)
    return known.sold
  const sold = findSold({ store, index })
  KEPT.set(store.variant, { products, categories, index, sold })
  return sold
}

/** Those of them that a scope holds. */
export async function soldInScope(prepared: PreparedStore, scope: What): Promise<readonly SoldVariant[]> {
  const isIn = scopeMatcher(prepared, scope)
  const slices = new Slices()
  const held: SoldVariant[] = []
  for (const item of await soldVariants(prepared)) {
    if (slices.isDue()) await slices.rest()
    if (isIn(item.number)) held.push(item)
  }
  return held
}

async function findSold({
  store,
  index,
}: Pick<PreparedStore, 'store' | 'index'>): Promise<readonly SoldVariant[]> {
  const branchesOf = new Map<string, readonly string[]>()
  const sold: SoldVariant[] = []
  const slices = new Slices()
  for (let number = 0; number < index.variantCount; number += 1) {
    if (slices.isDue()) await slices.rest()
    const variant = store.variant.get(index.items[number] as string)
    const product = store.product.get(variant?.product ?? '')
    if (variant?.status !== 'active' || product?.status !== 'active') continue
    let branches = branchesOf.get(product.id)
    if (!branches) {
      branches = [...distancesUp(store.category, product.categories).keys()]
      branchesOf.set(product.id, branches)
    }
    sold.push({ number, variant, product, branches })
  }
  return sold
}
