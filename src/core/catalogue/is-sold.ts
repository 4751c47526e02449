import type { Product, Variant } from './product'

/** Where the records of a catalogue are, by id. */
interface Catalogue {
  readonly variant: ReadonlyMap<string, Variant>
  readonly product: ReadonlyMap<string, Product>
}

/** Whether a variant, by its id, is there to be sold: it and its product are active. `false` for one that is not there. */
export function isSold({ variant: variants, product: products }: Catalogue, id: string): boolean {
  const variant = variants.get(id)
  return variant?.status === 'active' && products.get(variant.product)?.status === 'active'
}
