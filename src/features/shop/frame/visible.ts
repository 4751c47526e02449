import 'server-only'

import { sharedMemory } from '@/core/maps/shared-memory'
import { type CompiledAssortment, holdsBranch } from '@/core/access/assortment'
import { pathToRoot } from '@/core/catalogue/category'
import { findRights, isUnrestricted } from '@/core/engine/rules/find-rights'
import type { PreparedStore } from '@/core/engine/context/prepared-store'
import type { PricingContext } from '@/core/engine/context/pricing-context'
import { orderedProducts, type ProductWithVariants } from '@/server/engine/catalogue-order'
import type { ShopVisitor } from '@/server/session/shop-session'

/** Products with the variants a visitor may see: the one gate between the catalogue and every page of the shop. */
export function visible(
  { prepared, pricingContext }: ShopVisitor,
  products: readonly ProductWithVariants[],
): readonly ProductWithVariants[] {
  const isOpen = isUnrestricted(pricingContext)
  return products.flatMap(({ product, variants }) => {
    const kept = variants.filter(({ id, status }) =>
      isOpen
        ? status === 'active' && product.status === 'active'
        : findRights(prepared, pricingContext, prepared.index.numberOf.get(id) as number).see,
    )
    return kept.length > 0 ? [{ product, variants: kept }] : []
  })
}

/** The first product a visitor may see anything of; nothing after it is looked at. */
export function firstVisible(
  visitor: ShopVisitor,
  products: readonly ProductWithVariants[],
): ProductWithVariants | undefined {
  for (const each of products) {
    const [shown] = visible(visitor, [each])
    if (shown) return shown
  }
  return undefined
}

/** What can be reached, by pricing context, as long as the prepared store. */
const CATEGORIES = sharedMemory(
  'reachable-categories',
  () => new WeakMap<PreparedStore, WeakMap<PricingContext, ReadonlySet<string> | null>>(),
)

/** Ids of the categories a visitor can reach something in; `null` where nothing is kept from them. */
export function reachableCategories(visitor: ShopVisitor): ReadonlySet<string> | null {
  const { prepared, pricingContext } = visitor
  const kept = CATEGORIES.get(prepared) ?? new WeakMap<PricingContext, ReadonlySet<string> | null>()
  CATEGORIES.set(prepared, kept)
  const known = kept.get(pricingContext)
  if (known !== undefined) return known
  const isOpen = isUnrestricted(pricingContext)
  const reached = new Set<string>()
  if (!isOpen) {
    for (const { product } of visible(visitor, orderedProducts(prepared.store)))
      for (const category of openPaths(visitor, product.categories))
        for (const { id } of pathToRoot(prepared.store.category, category)) reached.add(id)
  }
  const found = isOpen ? null : reached
  kept.set(pricingContext, found)
  return found
}

/**
 * The categories of a product that its visitor's assortments lead through; the first one where it is taken in by
 * itself. A product in several categories is shown once, in the branches that are open.
 */
export function openPaths(
  { prepared, pricingContext }: ShopVisitor,
  categories: readonly string[],
): readonly string[] {
  const { channelAssortment, contractAssortments } = pricingContext.terms
  const leads = (compiled: CompiledAssortment, category: string) =>
    holdsBranch(compiled, prepared.store.category, category)
  const open = categories.filter(
    (category) =>
      (!channelAssortment || leads(channelAssortment, category)) &&
      (contractAssortments.length === 0 ||
        contractAssortments.some(({ compiled }) => leads(compiled, category))),
  )
  return open.length > 0 ? open : categories.slice(0, 1)
}
