import type { RateTable } from '../../currency/currency'
import type { RoundingRule } from '../../decimal/rounding'
import type { Place, Region } from '../../places/place'
import type { Validity } from '../../predicates/when'
import type { PlaceFacts } from '../../predicates/where'
import type { BuyerFacts, WhoTerm } from '../../predicates/who'
import type { Adjustment } from '../../price/adjustment'
import type { Contract, LadderPolicy } from '../../price/contract'
import type { Rung } from '../../price/ladder'
import type { ReferenceField } from '../../catalogue/product'
import type { BasisRates } from '../lists/based-units'
import type { CompiledList } from '../lists/compiled-list'
import type { PricingContextTerms } from './pricing-context-terms'
import type { LadderIndex } from '../lists/ladder-index'
import type { Amounts } from './prepared-amounts'
import type { PriceStep } from '../lists/price-step'

/** A list on a buyer's ladder. */
export interface LadderEntry {
  readonly compiled: CompiledList
  readonly rung: Rung
  /** Through which term of its audience the buyer is in it; `null` when a contract leads to it. */
  readonly audience: WhoTerm | null
  readonly contract: Contract | null
  /** Of the list, or of the contract and then the list's place in it. */
  readonly rank: readonly number[]
  /** Whether its prices must be converted. */
  readonly isForeign: boolean
  /** Since when it holds, for breaking ties; −infinity where open. */
  readonly start: number
  readonly currencyView: CurrencyView
}

/** A buyer's lists, top to bottom; those of one step share rung, rank and being foreign, and the more specific line decides. */
export type Ladder = readonly (readonly LadderEntry[])[]

/** Into which currency, with which rounding and under which adjustments a list's prices are looked at. */
export interface CurrencyView {
  readonly key: string
  readonly currency: string
  readonly digits: number
  /** For prices that had to be converted into the currency. */
  readonly rounding: RoundingRule | null
  /** On the base price, in order; none for a protected contract. */
  readonly adjustments: readonly Adjustment[]
  readonly at: number
  readonly rates: RateTable
  /** What brings amounts with and without tax together; `null` where all have one basis. */
  readonly basisRates: BasisRates | null
  /** By currency; `null` without a rate. Made when first asked for. */
  readonly conversions: Map<string, PriceStep | null>
  /** The same look at another currency, for what lists of that currency start from. */
  readonly into: Map<string, CurrencyView>
  /** The reference amounts looked up last, by field, and the prepared store they are of. */
  readonly seen: { prepared: object | null; amounts: Partial<Record<ReferenceField, Amounts>> }
}

/** Everything about who asks, where and when, resolved once for all items. */
export interface PricingContext {
  readonly buyer: BuyerFacts
  readonly place: PlaceFacts
  readonly deliverTo: Place
  readonly region: Region | null
  readonly currency: string
  /** Why it is this currency. */
  readonly currencyFrom: 'asked' | 'contract' | 'account' | 'region' | 'store'
  readonly digits: number
  readonly at: number
  /** How long around `at` all of this stays as it is. */
  readonly validity: Validity
  /** Contracts in force, the first one first. */
  readonly contracts: readonly Contract[]
  readonly ladder: Ladder
  /** Those of its lists that offer only what they list. */
  readonly exclusiveLists: readonly CompiledList[]
  /** The compiled lists its ladder was made of. */
  readonly lists: ReadonlyMap<string, CompiledList>
  readonly policy: LadderPolicy
  readonly terms: PricingContextTerms
  /** Adjustments of the price shown, in order. */
  readonly shown: readonly Adjustment[]
  /** For the base price everything falls back to. */
  readonly currencyView: CurrencyView
  /** What a guest is in the same place; `null` where nobody compares. */
  readonly publicPricingContext: PricingContext | null
  /** Made when a price is first looked up. */
  readonly reach: { current: LadderIndex | null }
  /** The same for buyers with the same rights. */
  readonly key: string
}
