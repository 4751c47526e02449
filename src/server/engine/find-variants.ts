import 'server-only'

import { findBySku } from '@/core/catalogue/find-by-code'
import { isSold } from '@/core/catalogue/is-sold'
import { itemName, type Variant } from '@/core/catalogue/product'
import type { Store } from '@/core/store/store'
import { shownProducts } from './catalogue-order'

/** An item as it is found by what was typed. */
export interface FoundVariant {
  readonly variant: Variant
  readonly name: string
}

/** Items that are sold, by what was typed: of that SKU, of a SKU that begins so, then whose names hold all the words. */
export function findVariants(store: Store, text: string, most: number): readonly FoundVariant[] {
  const typed = text.trim().toLowerCase()
  if (typed === '') return []
  const found = new Map<string, Variant>()
  const take = (variant: Variant) => {
    if (found.size < most && isSold(store, variant.id)) found.set(variant.id, variant)
  }
  const exact = findBySku(store.variant, typed)
  if (exact) take(exact)
  for (const variant of store.variant.values()) {
    if (found.size >= most) break
    if (variant.sku.toLowerCase().startsWith(typed)) take(variant)
  }
  if (found.size < most)
    for (const { variants } of shownProducts(store, { category: null, text: typed })) {
      for (const variant of variants) take(variant)
      if (found.size >= most) break
    }
  return [...found.values()].map((variant) => {
    const product = store.product.get(variant.product)
    return { variant, name: product ? itemName(product, variant) : variant.sku }
  })
}
