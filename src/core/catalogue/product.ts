import type { Decimal } from '../decimal/decimal'

/** The reference amounts of what is sold, in the store's currency; `null` where nothing is set. */
interface ReferenceAmounts {
  /** The price with no agreement. */
  readonly basePrice: Decimal | null
  readonly cost: Decimal | null
  readonly recommendedPrice: Decimal | null
}

/** Values set on a product and taken over by each of its variants that does not set its own. */
export interface InheritedValues extends ReferenceAmounts {
  /** Kilograms. */
  readonly weight: Decimal | null
}

export type InheritedField = keyof InheritedValues

/** What a page of the shop is about: one or more variants that differ along its option axes. */
export interface Product extends InheritedValues {
  readonly id: string
  readonly code: string
  readonly name: string
  readonly description: string
  /** File name of its picture, without folder and ending. */
  readonly picture: string
  /** What one of it is: "each", "case", "pair". */
  readonly unit: string
  readonly status: 'active' | 'archived'
  /** Ids; the first is the one its page is filed under. */
  readonly categories: readonly string[]
  readonly attributes: Readonly<Record<string, string>>
  /** Names of the options its variants differ in; empty when there is only one variant. */
  readonly axes: readonly string[]
}

/** What is priced, stocked and bought. */
export interface Variant extends InheritedValues {
  readonly id: string
  readonly sku: string
  readonly product: string
  /** One value for each option axis of the product. */
  readonly options: Readonly<Record<string, string>>
  readonly position: number
}

export type ResolvedValue =
  | { readonly value: Decimal; readonly from: 'variant' | 'product' }
  | { readonly value: null; readonly from: 'none' }

/** The value in force for a variant, and whether it is its own or taken over from its product. */
export function resolveValue(product: Product, variant: Variant, field: InheritedField): ResolvedValue {
  const own = variant[field]
  if (own !== null) return { value: own, from: 'variant' }
  const shared = product[field]
  return shared === null ? { value: null, from: 'none' } : { value: shared, from: 'product' }
}

/** What a variant is called beside its product's name: its options in the order of the axes. */
export function variantName(product: Product, variant: Variant): string {
  return product.axes
    .map((axis) => variant.options[axis])
    .filter((value) => value !== undefined)
    .join(', ')
}
