import { itemName } from '@/core/catalogue/product'
import type { Store } from '@/core/store/store'

/** What a variant is called, in whichever of two stores it is. */
export function titleOf(id: string, store: Store, before: Store): string {
  const variant = store.variant.get(id) ?? before.variant.get(id)
  const product = store.product.get(variant?.product ?? '') ?? before.product.get(variant?.product ?? '')
  if (!variant || !product) return ''
  return itemName(product, variant)
}
