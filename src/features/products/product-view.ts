import type { BuyerCode } from '@/core/buyers/buyer-code'
import type { InheritedField, Product } from '@/core/catalogue/product'
import type { Decimal } from '@/core/decimal/decimal'
import type { Vantage } from '@/core/engine/context/vantage'
import type { HistoryLine } from '@/ui/format/history-line'

/** One product in the list. */
export interface ProductListRow {
  readonly code: string
  readonly name: string
  readonly category: string
  readonly variants: number
  readonly base: string
  readonly cost: string
  /** What the buyer looked as pays, lowest to highest. */
  readonly price: string
  /** Lowest margin of its variants at that price, in percent; `null` without costs or prices. */
  readonly leastMargin: Decimal | null
}

export interface ProductListView {
  readonly find: string
  readonly rows: readonly ProductListRow[]
  /** How many match, shown or not. */
  readonly found: number
  readonly all: number
}

/** A value a product or variant shows: its own, or taken over. */
export interface ShownValue {
  readonly value: Decimal | null
  readonly own: boolean
}

export interface ProductSheetRow {
  readonly id: string
  readonly sku: string
  readonly name: string
  readonly values: Readonly<Record<InheritedField, ShownValue>>
  readonly price: Decimal | null
  /** The price in the basis of the store, with tax or without, as which its cost is given. */
  readonly compared: Decimal | null
  /** Name of the list that decided; `null` for the base price. */
  readonly priceFrom: string | null
  readonly terms: VariantTerms
}

/** What holds of a variant beside its price, for whoever is looked as. */
export interface VariantTerms {
  readonly taxClass: { readonly name: string; readonly from: string } | null
  readonly limits: string
  /** Names of the levels that set them. */
  readonly limitsFrom: string
  readonly access: string
}

export interface ProductSheetView extends Pick<
  Product,
  'id' | 'code' | 'name' | 'description' | 'picture' | 'unit'
> {
  readonly categories: readonly (readonly string[])[]
  readonly attributes: readonly (readonly [name: string, value: string])[]
  readonly values: Readonly<Record<InheritedField, Decimal | null>>
  readonly variants: readonly ProductSheetRow[]
  readonly as: BuyerCode
  readonly buyerName: string
  readonly currency: string
  readonly digits: number
  /** What the buyer looked as pays in. */
  readonly priceCurrency: string
  readonly priceDigits: number
  readonly vantage: Vantage
  readonly live: boolean
  /** The change set the figures are as of. */
  readonly asOf: number
  readonly history: readonly HistoryLine[]
}

/** The values of a product in the order of the sheet's columns. */
export const PRODUCT_FIELDS: readonly {
  readonly field: InheritedField
  readonly name: string
  readonly digits: number | null
}[] = [
  { field: 'basePrice', name: 'Base price', digits: null },
  { field: 'cost', name: 'Cost', digits: null },
  { field: 'recommendedPrice', name: 'Recommended', digits: null },
  { field: 'floor', name: 'Floor', digits: null },
  { field: 'weight', name: 'Weight, kg', digits: 0 },
]
