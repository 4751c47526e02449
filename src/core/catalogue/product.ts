import type { Decimal } from '../decimal/decimal'
import type { Status } from '../issue/issue'
import type { QuantityLimits } from '../limits/limit'

/** The reference amounts of what is sold; `null` where nothing is set. */
export interface ReferenceAmounts {
  /** The price with no agreement. */
  readonly basePrice: Decimal | null
  readonly cost: Decimal | null
  readonly recommendedPrice: Decimal | null
  /** Never sold below. */
  readonly floor: Decimal | null
}

export type ReferenceField = keyof ReferenceAmounts

/** Nothing is set. */
export const NO_AMOUNTS: ReferenceAmounts = {
  basePrice: null,
  cost: null,
  recommendedPrice: null,
  floor: null,
}

/** Amounts set in a currency of their own, by currency; they win over conversion. */
export type OwnAmounts = Readonly<Record<string, ReferenceAmounts>>

/** Values in the store's currency, set on a product and taken over by each of its variants that does not set its own. */
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
  readonly status: Status
  /** Id of the price family its variants are priced with. */
  readonly family: string | null
  readonly ownAmounts: OwnAmounts
  /** Id; `null` leaves it to the store. */
  readonly taxClass: string | null
  /** How much of something one holds: `0.454 kg`, `12 × 340 g`; `null` where its price is not given per unit. */
  readonly content: string | null
  readonly limits: QuantityLimits
  /** Ids; the first is the one its page is filed under. */
  readonly categories: readonly string[]
  readonly attributes: Readonly<Record<string, string>>
  /** Names of the options its variants differ in; empty when there is only one variant. */
  readonly axes: readonly string[]
  /** Whether more may be ordered than there is in stock. */
  readonly backOrder: boolean
}

/** What is priced, stocked and bought. */
export interface Variant extends InheritedValues {
  readonly id: string
  readonly sku: string
  /** Its number in the trade (GS1), which stands as a bar code on it; `null` where it has none. */
  readonly gtin: string | null
  readonly product: string
  /** One value for each option axis of the product. */
  readonly options: Readonly<Record<string, string>>
  readonly position: number
  readonly status: Status
  /** Instead of its product's. */
  readonly family: string | null
  readonly ownAmounts: OwnAmounts
  /** Instead of its product's. */
  readonly taxClass: string | null
  /** Instead of its product's. */
  readonly content: string | null
  /** Each field that is set stands instead of its product's. */
  readonly limits: QuantityLimits
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

/** What a variant is called by itself: its product's name, and its options. */
export function itemName(product: Product, variant: Variant): string {
  return [product.name, variantName(product, variant)].filter((part) => part !== '').join(', ')
}

/**
 * An amount set in a currency of its own for a variant; `null` where it must be converted. What a product
 * sets is taken over only together with its amount in the store's currency: a variant that is dearer than its
 * product at home would else be as cheap abroad.
 */
export function findOwnAmount(
  product: Product,
  variant: Variant,
  field: ReferenceField,
  currency: string,
): Decimal | null {
  const own = variant.ownAmounts[currency]?.[field] ?? null
  if (own !== null || variant[field] !== null) return own
  return product.ownAmounts[currency]?.[field] ?? null
}
