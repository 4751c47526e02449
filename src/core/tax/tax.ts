import type { Decimal } from '../decimal/decimal'
import type { Status } from '../issue/issue'

/** What goods are to those who tax them: "Standard", "Reduced", "Books". */
export interface TaxClass {
  readonly id: string
  readonly code: string
  readonly name: string
  readonly position: number
  readonly status: Status
}

/** A named levy: "VAT", "State sales tax", "City tax". */
export interface Tax {
  readonly id: string
  readonly code: string
  readonly name: string
  /** Ids of the taxes it is charged upon, beside the net. */
  readonly upon: readonly string[]
  /** Whether it also falls on delivery. */
  readonly onDelivery: boolean
  readonly position: number
  readonly status: Status
}

/** How much a tax is, somewhere, on a class, for a while. */
export interface TaxRate {
  readonly id: string
  /** Id. */
  readonly tax: string
  /** Id; `null` is every class. */
  readonly taxClass: string | null
  /** ISO 3166-1 alpha-2; empty is everywhere. */
  readonly country: string
  /** ISO 3166-2 without the country; empty is any. */
  readonly state: string
  /** `94103`, `94*` for all that begin so, `94100-94199` for a range; empty is any. */
  readonly postcode: string
  /** In any case; empty is any. */
  readonly city: string
  readonly percent: Decimal
  /** Local dates in the store's time zone, the end outside; `null` is open. */
  readonly from: string | null
  readonly to: string | null
  /** Why a rate outside 0 to 100 is meant so; empty where it need not be said. */
  readonly reason: string
}

/** How tax is computed in a store. */
export interface TaxSettings {
  /** Which place decides. */
  readonly taxPlace: 'delivery' | 'billing' | 'store'
  /** Whether each line is rounded, or each rate once a document. */
  readonly taxRounding: 'line' | 'document'
  /** What stays the same for buyers elsewhere when a price was entered with tax. */
  readonly grossElsewhere: 'keep-net' | 'keep-gross'
  /** Whether totals name each tax, or show one sum. */
  readonly taxTotals: 'by-name' | 'one'
  /** Id of the class of what names none. */
  readonly taxClass: string | null
  /** Id of the class of delivery; `null` follows the goods. */
  readonly deliveryTaxClass: string | null
  /** Countries whose registered businesses account for the tax themselves when bought from another of them. */
  readonly unionCountries: readonly string[]
  /** Numbers the merchant is registered under, by country. */
  readonly taxRegistrations: Readonly<Record<string, string>>
}
