import 'server-only'

import { findByCode, nearestSku } from '@/core/catalogue/find-by-code'
import type { Store } from '@/core/store/store'

const MOST_SKUS = 6

/** What to say of a SKU there is none of, with what may be meant: a product's code is often taken for one. */
export function unknownSkuText(store: Store, sku: string): string {
  const product = findByCode(store.product, sku)
  const skus = [...store.variant.values()]
    .filter((each) => each.product === product?.id)
    .map((each) => each.sku)
  if (skus.length > 0) return `${product?.code} is a product, sold as ${skus.slice(0, MOST_SKUS).join(', ')}.`
  const nearest = nearestSku(store.variant, sku)
  return `There is no SKU “${sku}”.${nearest ? ` Did you mean ${nearest}?` : ''}`
}
