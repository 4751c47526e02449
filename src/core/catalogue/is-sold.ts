import type { Store } from '../store/store'

/** Whether a variant, by its id, is there to be sold: it and its product are active. `false` for one that is not there. */
export function isSold({ variant: variants, product: products }: Store, id: string): boolean {
  const variant = variants.get(id)
  return variant?.status === 'active' && products.get(variant.product)?.status === 'active'
}
