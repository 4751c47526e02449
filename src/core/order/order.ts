import type { UnitPrice } from '../catalogue/content'
import type { Decimal } from '../decimal/decimal'
import type { TraceStep } from '../engine/explain/trace'
import type { TaxDisplay } from '../places/place'

/** Where an order goes, as it was typed or chosen. */
export interface OrderAddress {
  readonly name: string
  readonly street: string
  readonly postcode: string
  readonly city: string
  readonly state: string
  readonly country: string
}

/** An amount with its tax; net + tax = gross. */
export interface OrderAmount {
  readonly net: Decimal
  readonly tax: Decimal
  readonly gross: Decimal
}

export interface OrderLine {
  /** Id; the variant may be gone by now. */
  readonly variant: string
  readonly sku: string
  readonly name: string
  readonly quantity: Decimal
  /** Ids of what was wanted with each piece, and what it was called. */
  readonly extras: readonly { readonly id: string; readonly name: string }[]
  /** Of one piece with its extras. */
  readonly unit: { readonly net: Decimal; readonly gross: Decimal }
  /** What a kilogram, litre, metre… of it costs, as it was shown; `null` where its content is not stated. */
  readonly perUnit: UnitPrice | null
  readonly net: Decimal
  readonly tax: Decimal
  readonly gross: Decimal
  /** Each levy's part of the tax. */
  readonly taxes: readonly { readonly name: string; readonly percent: Decimal; readonly amount: Decimal }[]
  /** The whole line before promotions. */
  readonly before: { readonly net: Decimal; readonly gross: Decimal }
  /** Names of the promotions that took something off. */
  readonly promotions: readonly string[]
  /** Given for nothing. */
  readonly isGift: boolean
  /** Base price and cost of one piece without extras, without tax, in the currency of the order; `null` where there was none. */
  readonly base: Decimal | null
  readonly cost: Decimal | null
  /** Ids of the list that decided, and of the contract that led to it. */
  readonly list: string | null
  readonly contract: string | null
  /** How the price of one piece came about; empty for orders from before it was kept. */
  readonly trace: readonly TraceStep[]
}

/** What was used, as it was called then. `saving` is in the basis of the store then. */
interface OrderPromotion {
  readonly id: string
  readonly name: string
  readonly saving: Decimal
  readonly uses: number
}

/**
 * An order at the figures of its moment: nothing in it is computed again. What became of it since stands in its events.
 *
 * Holds   lines, delivery and payment charge add up to the total, and net + tax = gross in each, to the last unit of the currency.
 */
export interface OrderDocument {
  readonly version: 2
  readonly currency: string
  readonly digits: number
  /** Whether the buyer was shown prices with tax, without, or both. */
  readonly display: TaxDisplay
  readonly buyer: string
  readonly email: string
  readonly address: OrderAddress
  /** `card`, or the terms agreed. */
  readonly payment: string
  /** What the buyer calls it: the number of their purchase order. */
  readonly reference: string
  /** Under which the buyer accounts for tax; empty where there is none. */
  readonly taxNumber: string
  /** What is printed on delivery notes for whoever loads the van; empty for nothing. */
  readonly slipNote: string
  /** The quote whose offer it takes; `null` for what was ordered without. */
  readonly quote: number | null
  /** Who placed it for the buyer; `null` for the buyer. */
  readonly placedBy: string | null
  /** The state of the store it was priced in: the number of a change set; `null` where that was not kept. */
  readonly changeSet: number | null
  readonly lines: readonly OrderLine[]
  readonly goods: OrderAmount
  readonly delivery: OrderAmount
  /** What was added or, below zero, taken off for how it was paid. */
  readonly paymentCharge: OrderAmount
  readonly promotions: readonly OrderPromotion[]
  readonly taxes: readonly {
    readonly name: string
    readonly percent: Decimal
    readonly on: Decimal
    readonly amount: Decimal
  }[]
  readonly total: OrderAmount
  readonly untaxed: 'certificate' | 'reverse-charge' | null
}
